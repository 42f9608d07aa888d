package cutting

// flow is a small network of pipes in which as much as possible is sent from one node to another
// (augmenting paths, breadth first). All amounts are whole, so all flows are.
type flow struct {
	from, to, left []int // a pipe and, next to it, its way back
	at             [][]int
	back           []int // pipe by which the search reached a node
	queue          []int
	work           int // pipes made and looked through
}

func newFlow(nodes int) *flow { return &flow{at: make([][]int, nodes), back: make([]int, nodes)} }

// pipe adds one and gives its number.
func (f *flow) pipe(from, to, most int) int {
	n := len(f.to)
	f.work++
	f.from, f.to, f.left = append(f.from, from, to), append(f.to, to, from), append(f.left, most, 0)
	f.at[from], f.at[to] = append(f.at[from], n), append(f.at[to], n+1)
	return n
}

// sent is what runs through a pipe.
func (f *flow) sent(pipe int) int { return f.left[pipe^1] }

// send sends all it can and says how much.
func (f *flow) send(source, sink int) int {
	sum := 0
	for {
		f.work += len(f.back) / 8
		for i := range f.back {
			f.back[i] = -1
		}
		f.queue = append(f.queue[:0], source)
		for i := 0; i < len(f.queue) && f.back[sink] < 0; i++ {
			f.work += len(f.at[f.queue[i]])
			for _, pipe := range f.at[f.queue[i]] {
				if to := f.to[pipe]; f.left[pipe] > 0 && f.back[to] < 0 && to != source {
					f.back[to] = pipe
					f.queue = append(f.queue, to)
				}
			}
		}
		if f.back[sink] < 0 {
			return sum
		}
		least := f.left[f.back[sink]]
		for node := sink; node != source; node = f.from[f.back[node]] {
			least = min(least, f.left[f.back[node]])
		}
		for node := sink; node != source; node = f.from[f.back[node]] {
			pipe := f.back[node]
			f.left[pipe], f.left[pipe^1] = f.left[pipe]-least, f.left[pipe^1]+least
		}
		sum += least
	}
}
