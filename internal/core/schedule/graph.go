package schedule

// never stands for no path between two points.
const never = -1 << 28

// node is one part of the tree: what is settled there, as S_j − S_i ≥ D[i][j], closed under longest paths.
// Row 0 is the clock’s zero, then the tasks, then the first touch F and the last touch G.
type node struct {
	size       int
	d          []int32
	pool       []int8 // of each task; open −1, machine −2
	dmin, dmax []int32
	clean      []int32 // least cleaning that can still come right before
	key        key
	at         []int // the candidate: the best start of every task when nothing else were in the way
}

const (
	openPool    = -1
	machinePool = -2
)

// key is what a node is judged by; the less the better.
type key [3]int

func (k key) less(o key) bool {
	for i := range k {
		if k[i] != o[i] {
			return k[i] < o[i]
		}
	}
	return false
}

func (n *node) get(u, v int) int { return int(n.d[u*n.size+v]) }

func (n *node) copyOf(o *node) {
	n.size = o.size
	n.d = append(n.d[:0], o.d...)
	n.pool = append(n.pool[:0], o.pool...)
	n.dmin, n.dmax = append(n.dmin[:0], o.dmin...), append(n.dmax[:0], o.dmax...)
	n.clean = append(n.clean[:0], o.clean...)
	n.at = append(n.at[:0], o.at...)
	n.key = o.key
}

// add settles S_v − S_u ≥ w and says whether that can be.
func (n *node) add(u, v, w int) bool {
	if u == v {
		return w <= 0
	}
	if n.get(u, v) >= w {
		return true
	}
	if n.get(v, u)+w > 0 {
		return false
	}
	size, d := n.size, n.d
	row := d[v*size : v*size+size]
	for i := range size {
		to := d[i*size+u]
		if to == never {
			continue
		}
		to += int32(w)
		if to <= d[i*size+v] {
			continue
		}
		mine := d[i*size : i*size+size]
		for j, x := range row {
			if x != never && to+x > mine[j] {
				mine[j] = to + x
			}
		}
	}
	return true
}
