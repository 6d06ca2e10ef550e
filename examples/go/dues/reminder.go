package dues

import (
	"fmt"

	"harbour.example/quayside/domain"
)

// Reminder words a reminder for a due that is still open.
func Reminder(d domain.Due) string {
	return fmt.Sprintf("%s owes %d", d.CallSign, d.Amount/100)
}
