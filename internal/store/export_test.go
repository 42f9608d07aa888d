package store

// WithRoom is the same database whose jobs hold less.
func (s *Store) WithRoom(entries, bytes uint64) *Store {
	other := *s
	other.most = room{entries, bytes}
	return &other
}
