// Package store keeps everything in a database.
package store

import (
	"database/sql"

	"harbour.example/quayside/radio"
)

// Store is the harbour's database.
type Store struct {
	db    *sql.DB
	radio *radio.Radio
}

// Open opens the database.
func Open(driver, name string, r *radio.Radio) (*Store, error) {
	db, err := sql.Open(driver, name)
	if err != nil {
		return nil, err
	}
	return &Store{db: db, radio: r}, nil
}
