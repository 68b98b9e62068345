package app

import "sync"

// newest keeps the newest of what can be worked out again, by a key.
type newest[T any] struct {
	mu   sync.Mutex
	kept map[string]T
	ring []string // keys, the oldest first
}

func (n *newest[T]) get(key string) (T, bool) {
	n.mu.Lock()
	defer n.mu.Unlock()
	x, ok := n.kept[key]
	return x, ok
}

// put one in, at most so many in all, and give what is kept under its key now: of two that were worked out at once the first.
func (n *newest[T]) put(key string, x T, most int) T {
	n.mu.Lock()
	defer n.mu.Unlock()
	if had, ok := n.kept[key]; ok {
		return had
	}
	if n.kept == nil {
		n.kept = map[string]T{}
	}
	n.kept[key] = x
	if n.ring = append(n.ring, key); len(n.ring) > most {
		delete(n.kept, n.ring[0])
		n.ring = n.ring[1:]
	}
	return x
}
