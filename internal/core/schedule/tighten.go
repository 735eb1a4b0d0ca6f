package schedule

// tighten draws every conclusion it can from what is settled, until nothing changes, and says whether that can be.
func (s *solver) tighten(x *node) bool {
	for range 64 {
		before := s.mark(x)
		if !s.byGoal(x) || !s.cleaning(x) || !s.pairs(x) || !s.breaks(x) || !s.byWork(x) {
			return false
		}
		if s.mark(x) == before {
			return true
		}
	}
	return true
}

// mark changes whenever anything is settled more tightly.
func (s *solver) mark(x *node) int64 {
	total := int64(0)
	for _, v := range x.d {
		total += int64(v)
	}
	for _, c := range x.clean {
		total += int64(c)
	}
	return total
}

// byGoal keeps within what has been found.
func (s *solver) byGoal(x *node) bool {
	if !s.found {
		return true
	}
	late := s.lateness(x)
	room := s.best[0] - late
	if s.mode == byLate {
		room--
	}
	if room < 0 {
		return false
	}
	for o := range s.lasts {
		for _, l := range s.lasts[o] {
			if !x.add(l.task+1, 0, l.behind(int(x.dmin[l.task]))-s.late[o]-room) {
				return false
			}
		}
	}
	if room > 0 && s.lateWork(x) < s.best[0] {
		return true
	}
	switch s.mode {
	case bySpan:
		return x.add(s.g, s.f, -s.best[1])
	case byEnd:
		return x.add(s.g, 0, 1-s.best[1])
	}
	return true
}

// before says whether i is settled to come before j; both take up the same.
func (s *solver) before(x *node, i, j int) bool {
	return x.get(i+1, j+1)+int(x.dmin[j])+int(x.clean[i]) > 0
}

// cleaning raises the cleaning before each task to the least that can still come.
func (s *solver) cleaning(x *node) bool {
	if len(s.day.Setup) == 0 {
		return true
	}
	for _, j := range s.roller {
		least, first := NoLimit, true
		class := s.day.Tasks[j].Class
		for _, i := range s.roller {
			if i == j || s.before(x, j, i) {
				continue
			}
			direct := true
			if s.before(x, i, j) {
				first = false
				for _, k := range s.roller {
					direct = direct && (k == i || k == j || !s.before(x, i, k) || !s.before(x, k, j))
				}
			}
			if direct {
				least = min(least, s.day.setup(s.day.Tasks[i].Class, class))
			}
		}
		if first {
			least = min(least, s.day.setup(s.day.First, class))
		}
		if least < NoLimit && least > int(x.clean[j]) {
			x.clean[j] = int32(least)
			if !x.add(s.f, j+1, least) {
				return false
			}
		}
	}
	return true
}

// pairs orders two tasks that take up the same where only one order is left, and keeps their distance.
func (s *solver) pairs(x *node) bool {
	for i := range s.n {
		for j := i + 1; j < s.n; j++ {
			if !s.rivals(x, i, j) {
				continue
			}
			ij, ji := int(x.dmin[i])+int(x.clean[j]), int(x.dmin[j])+int(x.clean[i])
			iFirst, jFirst := x.get(j+1, i+1)+ij <= 0, x.get(i+1, j+1)+ji <= 0
			switch {
			case !iFirst && !jFirst:
				return false
			case !jFirst:
				if !x.add(i+1, j+1, ij) {
					return false
				}
			case !iFirst:
				if !x.add(j+1, i+1, ji) {
					return false
				}
			}
		}
	}
	return true
}

// breaks puts tasks before or after the time off of who does them, where only one is left.
func (s *solver) breaks(x *node) bool {
	for i := range s.n {
		off := s.nobody
		if x.pool[i] == machinePool {
			continue
		} else if x.pool[i] != openPool {
			off = s.pools[x.pool[i]].off
		}
		for _, o := range off {
			before := x.get(0, i+1)+int(x.dmin[i]) <= o[0]
			after := -x.get(i+1, 0)-int(x.clean[i]) >= o[1]
			switch {
			case !before && !after:
				return false
			case !before:
				if !x.add(0, i+1, o[1]+int(x.clean[i])) {
					return false
				}
			case !after:
				if !x.add(i+1, 0, int(x.dmin[i])-o[0]) {
					return false
				}
			}
		}
	}
	return true
}

// byWork finds what must come last or first among all that one pair of hands or the roller has to do.
func (s *solver) byWork(x *node) bool {
	done := false
	for p := range s.pools {
		if !s.alone(int8(p)) {
			continue
		}
		on := func(i int) bool { return x.pool[i] == int8(p) }
		if !s.edges(x, on, s.pools[p].off) {
			return false
		}
		done = done || len(s.pools) == 1
	}
	if done || len(s.roller) == 0 {
		return true
	}
	var off [][2]int
	if s.rolled {
		off = s.nobody
	}
	return s.edges(x, func(i int) bool { return s.day.Tasks[i].Class >= 0 }, off)
}

func (s *solver) edges(x *node, on func(int) bool, off [][2]int) bool {
	for _, byClock := range []bool{true, false} {
		if !byClock && (s.mode != bySpan || !s.found || s.lateness(x) < s.best[0]) {
			continue
		}
		for _, forwards := range []bool{true, false} {
			jobs := s.jobs[:0]
			for i := range s.n {
				if !on(i) {
					continue
				}
				clean, takes := int(x.clean[i]), int(x.dmin[i])
				j := job{task: i, work: takes + clean}
				if byClock {
					j.head, j.dead = x.get(0, i+1)-clean, takes-x.get(i+1, 0)
				} else {
					j.head, j.dead = x.get(s.f, i+1)-clean, s.best[1]-x.get(i+1, s.g)+takes
				}
				jobs = append(jobs, j)
			}
			if byClock {
				for _, o := range off {
					jobs = append(jobs, job{task: -1, head: o[0], dead: o[1], work: o[1] - o[0]})
				}
			}
			if !forwards {
				mirrored(jobs)
			}
			s.grow(len(jobs))
			if !edgeFinding(jobs, s.one, s.two) || !s.raise(x, jobs, byClock, forwards) {
				return false
			}
		}
	}
	return true
}

// grow makes room for as many jobs.
func (s *solver) grow(n int) {
	for len(s.one) < n {
		s.one, s.two = append(s.one, 0), append(s.two, 0)
	}
}

// raise takes over what edge finding found.
func (s *solver) raise(x *node, jobs []job, byClock, forwards bool) bool {
	for _, j := range jobs {
		if j.task < 0 {
			continue
		}
		i := j.task
		clean := int(x.clean[j.task])
		takes := int(x.dmin[j.task])
		ok := true
		switch {
		case forwards && byClock:
			ok = x.add(0, i+1, j.head+clean)
		case forwards:
			ok = x.add(s.f, i+1, j.head+clean)
		case byClock:
			ok = x.add(i+1, 0, j.head+takes)
		default:
			ok = x.add(i+1, s.g, takes+s.best[1]+j.head)
		}
		if !ok {
			return false
		}
	}
	return true
}
