package evidence

// Withhold takes all values of columns out, and leaves the figures.
func (e *Evidence) Withhold() {
	for i := range e.Columns {
		e.Columns[i].Least, e.Columns[i].Greatest = nil, nil
	}
	for i := range e.References {
		e.References[i].Samples = nil
	}
}
