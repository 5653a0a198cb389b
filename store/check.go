package store

import (
	"context"
	"fmt"
)

// Check looks through the whole data file and says, a line each, what is wrong
// with it: the file's own order, and every revision against its checksum.
// readable judges the document that a thing shows.
func (s *Store) Check(ctx context.Context, readable func(kind string, doc []byte) error) (faults []string, err error) {
	if faults, err = s.checkOrder(ctx, "integrity_check"); err != nil {
		return faults, err
	}
	for _, kind := range []string{RigKind, ""} {
		for _, deleted := range []bool{false, true} {
			list, _, err := s.List(ctx, Query{Kind: kind, Deleted: deleted})
			if err != nil {
				return append(faults, err.Error()), nil
			}
			for i := range list {
				faults = append(faults, faultOf(&list[i], readable)...)
			}
		}
	}
	return append(faults, s.checkHistory(ctx)...), nil
}

// CheckQuickly is the part of Check that takes no time worth speaking of, for
// the start.
func (s *Store) CheckQuickly(ctx context.Context) ([]string, error) {
	return s.checkOrder(ctx, "quick_check")
}

func (s *Store) checkOrder(ctx context.Context, pragma string) (faults []string, err error) {
	rows, err := s.read.QueryContext(ctx, "PRAGMA "+pragma+"(20)")
	if err != nil {
		if damaged(err) {
			return []string{s.explain(err).Error()}, nil
		}
		return nil, s.explain(err)
	}
	defer rows.Close()
	for rows.Next() {
		var line string
		if err := rows.Scan(&line); err != nil {
			return nil, s.explain(err)
		}
		if line != "ok" {
			faults = append(faults, "the file: "+line)
		}
	}
	if err := rows.Err(); err != nil {
		faults = append(faults, s.explain(err).Error())
	}
	return faults, nil
}

func faultOf(e *Entry, readable func(kind string, doc []byte) error) []string {
	if e.Fault != nil {
		return []string{fmt.Sprintf("%s %d, %q: %v", e.Kind, e.ID, e.Name, e.Fault)}
	}
	if err := readable(e.Kind, e.Doc); err != nil {
		return []string{fmt.Sprintf("%s %d, %q: %v", e.Kind, e.ID, e.Name, err)}
	}
	return nil
}

// checkHistory holds the revisions that are not shown against their checksums.
func (s *Store) checkHistory(ctx context.Context) (faults []string) {
	rows, err := s.read.QueryContext(ctx, "SELECT v.id, v.thing, v.label, v.doc, v.sum FROM revisions v LEFT JOIN things t ON t.head = v.id WHERE t.id IS NULL")
	if err != nil {
		return []string{"the history: " + s.explain(err).Error()}
	}
	defer rows.Close()
	for rows.Next() {
		var revision, thing int64
		var label, sum string
		var doc []byte
		err := rows.Scan(&revision, &thing, &label, &doc, &sum)
		if err := verdict(thing, revision, label, sum, doc, err); err != nil {
			faults = append(faults, "the history: "+err.Error())
		}
	}
	if err := rows.Err(); err != nil {
		faults = append(faults, "the history: "+s.explain(err).Error())
	}
	return faults
}
