package postgres

import (
	"strconv"
)

// A row is what the server sent, in its text form. Reading numbers from it
// directly is several times faster than the driver's general way, which at a
// hundred thousand columns is most of a survey.
type row [][]byte

func (v row) oid(i int) uint32 {
	var n uint32
	for _, c := range v[i] {
		n = n*10 + uint32(c-'0')
	}
	return n
}

func (v row) int(i int) int64 {
	n, err := strconv.ParseInt(string(v[i]), 10, 64)
	if err != nil {
		return 0 // null, or no whole number: nothing that is asked for as one
	}
	return n
}

func (v row) text(i int) string { return string(v[i]) }

func (v row) is(i int) bool { return len(v[i]) == 1 && v[i][0] == 't' }

// one is a text of a single letter, without making a string of it.
func (v row) one(i int) byte {
	if len(v[i]) == 0 {
		return 0
	}
	return v[i][0]
}

// numbers reads an array of whole numbers: {1,2} or 1 2.
func (v row) numbers(i int) []int64 {
	var list []int64
	n, sign, some := int64(0), int64(1), false
	for _, c := range v[i] {
		switch {
		case c >= '0' && c <= '9':
			n, some = n*10+int64(c-'0'), true
			continue
		case c == '-':
			sign = -1
			continue
		}
		if some {
			list = append(list, sign*n)
		}
		n, sign, some = 0, 1, false
	}
	if some {
		list = append(list, sign*n)
	}
	return list
}

// each sends one query and hands on each row, unless something failed before.
// A row holds only until the next.
func (r *reader) each(query string, take func(v row)) {
	if r.err != nil || r.answered(query, take) {
		return
	}
	rows, err := r.tx.Query(r.ctx, query)
	if err != nil {
		r.err = err
		return
	}
	defer rows.Close()
	for rows.Next() {
		take(rows.RawValues())
	}
	r.err = rows.Err()
}
