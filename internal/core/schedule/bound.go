package schedule

// bound finds the least key below a node and the candidate: the starts that reach it when nothing is in the way.
func (s *solver) bound(x *node) {
	late := s.lateness(x)
	lb := max(late, s.lateWork(x))
	switch s.mode {
	case byLate:
		x.key = key{lb}
		s.earliest(x)
	case byEnd:
		end := max(x.get(0, s.g), s.endByWork(x))
		x.key = key{lb, end}
		s.earliest(x)
	case byMoves:
		s.clamped(x)
		moved := 0
		for i, e := range s.lo {
			moved += max(0, e-s.old[i], s.old[i]-s.hi[i])
		}
		x.key = key{lb, moved}
	default:
		s.latest(x)
		if span := s.spanOf(x, s.firstTouch(x)); lb == late {
			x.key = key{lb, span, s.candidate(x, span)}
		} else { // which order is late is open: each may be by all of it
			s.candidate(x, span)
			s.allow(lb - late)
			s.latest(x)
			x.key = key{lb, min(span, s.spanOf(x, s.firstTouch(x))), 0}
			s.lateness(x)
			s.latest(x)
		}
	}
}

func (s *solver) earliest(x *node) {
	for i := range s.n {
		x.at[i] = x.get(0, i+1)
	}
}

// latest finds the latest start of every task, all orders at their least end.
func (s *solver) latest(x *node) {
	for i := range s.n {
		l := -x.get(i+1, 0)
		for o, lasts := range s.lasts {
			for _, e := range lasts {
				if d := x.get(i+1, e.task+1); d > never {
					l = min(l, s.late[o]-e.behind(int(x.dmin[e.task]))-d)
				}
			}
		}
		s.hi[i] = l
	}
}

// firstTouch is the latest first touch, all orders at their least end.
func (s *solver) firstTouch(x *node) int {
	first := NoLimit
	for i := range s.n {
		if d := x.get(s.f, i+1); d > never {
			first = min(first, s.hi[i]-d)
		}
	}
	if x.get(s.f, 0) > never {
		first = min(first, -x.get(s.f, 0))
	}
	return first
}

// toEnd is the least from a task’s start to the last touch, given its latest start.
func (s *solver) toEnd(x *node, i int) int { return max(x.get(i+1, s.g), x.get(0, s.g)-s.hi[i]) }

// spanOf bounds the span from below: by the longest path, by Jackson’s schedule on one pair of hands and on the
// roller, and by the work spread over the open hours.
func (s *solver) spanOf(x *node, first int) int {
	span := max(x.get(s.f, s.g), x.get(0, s.g)-first)
	for p := range s.pools {
		if s.alone(int8(p)) {
			span = max(span, s.jacksonOn(x, func(i int) bool { return x.pool[i] == int8(p) }))
		}
	}
	if len(s.roller) > 0 {
		span = max(span, s.jacksonOn(x, func(i int) bool { return s.day.Tasks[i].Class >= 0 }))
	}
	work := 0
	roll := 0
	head := NoLimit
	tail := NoLimit
	lo := NoLimit
	hi := 0
	for i := range s.n {
		takes := int(x.dmin[i]) + int(x.clean[i])
		if s.day.Tasks[i].Hands {
			work += takes
		}
		if s.day.Tasks[i].Class >= 0 {
			roll += takes
			head = min(head, x.get(s.f, i+1)-int(x.clean[i]))
			tail = min(tail, x.get(i+1, s.g)-int(x.dmin[i]))
			lo, hi = min(lo, x.get(0, i+1)-int(x.clean[i])), max(hi, s.hi[i])
		}
	}
	people := len(s.day.People)
	if people == 0 {
		return max(span, work)
	}
	span = max(span, spread(x.get(0, s.f), first, (work+people-1)/people, s.nobody))
	if roll > 0 && s.rolled {
		span = max(span, head+spread(lo, hi, roll, s.nobody)+tail)
	}
	return span
}

func (s *solver) jacksonOn(x *node, on func(int) bool) int {
	jobs := s.jobs[:0]
	for i := range s.n {
		if on(i) {
			clean := int(x.clean[i])
			jobs = append(jobs, job{head: x.get(s.f, i+1) - clean, work: int(x.dmin[i]) + clean, tail: x.get(i+1,
				s.g) - int(x.dmin[i])})
		}
	}
	if len(jobs) == 0 {
		return 0
	}
	s.grow(len(jobs))
	return jackson(jobs, s.one)
}

// endByWork bounds the end of all by Jackson’s schedule by the clock.
func (s *solver) endByWork(x *node) int {
	end := 0
	by := func(on func(int) bool) {
		jobs := s.jobs[:0]
		for i := range s.n {
			if on(i) {
				clean := int(x.clean[i])
				jobs = append(jobs, job{head: x.get(0, i+1) - clean, work: int(x.dmin[i]) + clean, tail: x.get(i+1,
					s.g) - int(x.dmin[i])})
			}
		}
		if len(jobs) > 0 {
			s.grow(len(jobs))
			end = max(end, jackson(jobs, s.one))
		}
	}
	if len(s.pools) == 1 && s.alone(0) {
		by(func(i int) bool { return s.day.Tasks[i].Hands })
	}
	by(func(i int) bool { return s.day.Tasks[i].Class >= 0 })
	return end
}

// candidate puts everything as late as it may be within the span and returns how early the orders then are.
func (s *solver) candidate(x *node, span int) int {
	first := s.firstTouch(x)
	for i := range s.n {
		x.at[i] = min(s.hi[i], span-s.toEnd(x, i)+first)
	}
	early := 0
	for o, lasts := range s.lasts {
		end := 0
		for _, l := range lasts {
			end = max(end, x.at[l.task]+l.behind(int(x.dmin[l.task])))
		}
		early += max(0, s.day.Orders[o].Due-end)
	}
	return early
}

// clamped puts every task where it was, or as near as what is settled leaves it.
func (s *solver) clamped(x *node) {
	s.latest(x)
	for i := range s.n {
		s.lo[i] = x.get(0, i+1)
		x.at[i] = min(max(s.old[i], s.lo[i]), s.hi[i])
	}
	z := s.one[:s.n]
	copy(z, x.at)
	for j := range s.n {
		for i := range s.n {
			if d := x.get(i+1, j+1); d > never {
				x.at[j] = max(x.at[j], z[i]+d)
			}
		}
	}
}
