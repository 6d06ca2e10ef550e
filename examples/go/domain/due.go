package domain

// Money is an amount in hundredths.
type Money int64

// Due is what a stay costs.
type Due struct {
	CallSign string
	Amount   Money
}

// Tariff is the price of a night for the smallest class.
type Tariff Money

// Due works out what a stay costs.
func (t Tariff) Due(v Vessel, s Stay) Due {
	return Due{CallSign: v.CallSign, Amount: Money(t) * Money(v.Class) * Money(s.Nights())}
}
