package catalog

import (
	"errors"
	"io"
	"runtime"
	"sync"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// surveyParts is a survey file whose tables and figures are not yet taken
// apart: they are most of it, and every core takes its share.
type surveyParts struct {
	survey
	Schemas    []*schemaParts   `json:"schemas"`
	Statistics *statisticsParts `json:"statistics,omitempty"`
}

type schemaParts struct {
	Schema
	Tables []jsontext.Value `json:"tables,omitempty"`
}

type statisticsParts struct {
	statistics
	Tables []jsontext.Value `json:"tables"`
}

// decode takes a survey file apart.
func decode(text []byte) (*survey, error) {
	var p surveyParts
	if err := strictly(text, &p); err != nil {
		return nil, err
	}
	s := &p.survey
	for _, part := range p.Schemas {
		if part == nil {
			return nil, errors.New("a schema is null")
		}
		sc := &part.Schema
		tables, err := decodeEach[*Table](part.Tables)
		if err != nil {
			return nil, err
		}
		sc.Tables = tables
		s.Schemas = append(s.Schemas, sc)
	}
	if p.Statistics != nil {
		figures, err := decodeEach[tableFigures](p.Statistics.Tables)
		if err != nil {
			return nil, err
		}
		s.Statistics = &p.Statistics.statistics
		s.Statistics.Tables = figures
	}
	return s, nil
}

func strictly(text []byte, into any) error {
	// Names may hold bytes that are no UTF-8: they were replaced when written.
	err := json.Unmarshal(text, into, json.RejectUnknownMembers(true), jsontext.AllowInvalidUTF8(true))
	if errors.Is(err, io.ErrUnexpectedEOF) {
		return io.ErrUnexpectedEOF
	}
	return err
}

// decodeEach decodes a list's members on every core.
func decodeEach[T any](parts []jsontext.Value) ([]T, error) {
	if len(parts) == 0 {
		return nil, nil
	}
	all := make([]T, len(parts))
	workers := min(runtime.GOMAXPROCS(0), len(parts))
	errs := make([]error, workers)
	var work sync.WaitGroup
	for w := range workers {
		work.Go(func() {
			for i := w; i < len(parts); i += workers {
				if string(parts[i]) == "null" {
					errs[w] = errors.New("a member of a list is null")
					return
				}
				if err := strictly(parts[i], &all[i]); err != nil {
					errs[w] = err
					return
				}
			}
		})
	}
	work.Wait()
	return all, errors.Join(errs...)
}
