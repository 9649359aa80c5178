package capture

// An Asked is a question, and the first and the last of the versions that it is put to.
type Asked[Q any] struct {
	Question    Q
	First, Last int
}

// Always reports whether each of so many versions is asked.
func (a Asked[Q]) Always(versions int) bool { return a.First == 0 && a.Last == versions-1 }

// Versions joins what each of so many versions is asked, in the order in which they ask first; key
// tells questions apart.
func Versions[Q any](versions int, asked func(version int) ([]Q, error), key func(Q) string) ([]Asked[Q], error) {
	var all []Asked[Q]
	at := map[string]int{}
	for v := range versions {
		list, err := asked(v)
		if err != nil {
			return nil, err
		}
		for _, q := range list {
			i, known := at[key(q)]
			if !known {
				i = len(all)
				at[key(q)] = i
				all = append(all, Asked[Q]{Question: q, First: v})
			}
			all[i].Last = v
		}
	}
	return all, nil
}
