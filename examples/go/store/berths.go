package store

import (
	"harbour.example/quayside/domain"
	"harbour.example/quayside/store/rows"
)

// Berths returns all berths.
func (s *Store) Berths() ([]domain.Berth, error) {
	found, err := query(s.db, "SELECT number, depth_cm FROM berth", func(scan scanner) (rows.Berth, error) {
		var b rows.Berth
		return b, scan(&b.Number, &b.DepthCM)
	})
	if err != nil {
		return nil, err
	}
	out := make([]domain.Berth, len(found))
	for i, b := range found {
		out[i] = domain.FromRow(b)
	}
	return out, nil
}
