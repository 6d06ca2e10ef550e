package store

import (
	"harbour.example/quayside/domain"
)

// EnterDue writes what was charged.
func (s *Store) EnterDue(d domain.Due) error {
	_, err := s.db.Exec("INSERT INTO due VALUES (?, ?)", d.CallSign, int64(d.Amount))
	return err
}
