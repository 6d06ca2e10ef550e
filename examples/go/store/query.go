package store

import (
	"database/sql"
)

type scanner func(into ...any) error

func query[T any](db *sql.DB, text string, read func(scanner) (T, error)) ([]T, error) {
	found, err := db.Query(text)
	if err != nil {
		return nil, err
	}
	defer found.Close()
	var out []T
	for found.Next() {
		v, err := read(found.Scan)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, found.Err()
}
