package store

import (
	"context"
	"fmt"
)

// Check looks through the whole data file and says, a line each, what is wrong with it: the
// file's own order, how its pieces hang together, and every piece against its checksum.
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
	for _, look := range []func(context.Context) ([]string, error){
		s.checkJoints, s.checkHistory, s.checkPictures, s.checkCaptures, s.checkRecordings,
	} {
		more, err := look(ctx)
		if faults = append(faults, more...); err != nil {
			faults = append(faults, s.explain(err).Error())
		}
	}
	return faults, nil
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

// joints are what must hang together, each with the query for what does not.
var joints = []struct{ query, says string }{
	{"SELECT id, thing FROM revisions WHERE parent >= id", "revision %d of thing %d is said to be made from itself, or from a later one"},
	{
		"SELECT v.id, v.thing FROM revisions v JOIN revisions p ON p.id = v.parent WHERE p.thing <> v.thing",
		"revision %d of thing %d is said to be made from one of another thing",
	},
	{
		"SELECT v.id, v.parent FROM revisions v LEFT JOIN revisions p ON p.id = v.parent WHERE v.parent IS NOT NULL AND p.id IS NULL",
		"revision %d was made from revision %d, which is missing",
	},
	{
		"SELECT v.id, v.thing FROM revisions v LEFT JOIN things t ON t.id = v.thing WHERE t.id IS NULL",
		"revision %d is of thing %d, which is missing",
	},
	{
		"SELECT p.id, p.thing FROM pictures p LEFT JOIN things t ON t.id = p.thing WHERE t.id IS NULL",
		"picture %d is of thing %d, which is missing",
	},
	{
		"SELECT c.rowid, c.thing FROM captures c LEFT JOIN things t ON t.id = c.thing WHERE t.id IS NULL",
		"capture %d is of thing %d, which is missing",
	},
	{
		"SELECT 1, r.thing FROM recordings r LEFT JOIN things t ON t.id = r.thing WHERE t.id IS NULL",
		"recording %d is of thing %d, which is missing",
	},
}

func (s *Store) checkJoints(ctx context.Context) (faults []string, err error) {
	for _, j := range joints {
		pairs, err := pairsOf(ctx, s.read, j.query)
		for _, p := range pairs {
			faults = append(faults, "the history: "+fmt.Sprintf(j.says, p[0], p[1]))
		}
		if err != nil {
			return faults, err
		}
	}
	return faults, nil
}

func pairsOf(ctx context.Context, db asker, query string) (pairs [][2]int64, err error) {
	rows, err := db.QueryContext(ctx, query)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var p [2]int64
		if err := rows.Scan(&p[0], &p[1]); err != nil {
			return pairs, err
		}
		pairs = append(pairs, p)
	}
	return pairs, rows.Err()
}

// checkHistory holds every revision against its checksum, the document that is shown, which
// has been looked at, as the splices make it too.
func (s *Store) checkHistory(ctx context.Context) (faults []string, err error) {
	shown := map[int64]bool{}
	heads, err := pairsOf(ctx, s.read, "SELECT head, id FROM things")
	if err != nil {
		return nil, err
	}
	for _, h := range heads {
		shown[h[0]] = true
	}
	rows, err := s.read.QueryContext(
		ctx, "SELECT id, thing, COALESCE(parent, 0), label, doc, sum, splice FROM revisions ORDER BY thing, id",
	)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var before struct { // a revision is mostly made from the one before
		id  int64
		doc []byte
	}
	for rows.Next() {
		var revision, thing, parent int64
		var label, sum string
		var doc, splice []byte
		err := rows.Scan(&revision, &thing, &parent, &label, &doc, &sum, &splice)
		switch {
		case err == nil && splice == nil && shown[revision]:
			before.id, before.doc = revision, doc
			continue
		case err == nil && splice != nil && parent == before.id:
			doc, err = spliced(before.doc, splice)
		case err == nil && splice != nil:
			doc, err = docOf(ctx, s.read, revision)
		}
		if fault := verdict(thing, revision, label, sum, doc, err); fault != nil {
			faults = append(faults, "the history: "+fault.Error())
		}
		before.id, before.doc = revision, doc
	}
	return faults, rows.Err()
}

func (s *Store) checkPictures(ctx context.Context) (faults []string, err error) {
	pairs, err := pairsOf(ctx, s.read, "SELECT thing, id FROM pictures")
	for _, p := range pairs {
		if _, err := s.Picture(ctx, p[0], p[1]); err != nil {
			faults = append(faults, err.Error())
		}
	}
	return faults, err
}

func (s *Store) checkRecordings(ctx context.Context) (faults []string, err error) {
	pairs, err := pairsOf(ctx, s.read, "SELECT thing, 0 FROM recordings")
	for _, p := range pairs {
		if _, err := s.Recording(ctx, p[0]); err != nil {
			faults = append(faults, err.Error())
		}
	}
	return faults, err
}

func (s *Store) checkCaptures(ctx context.Context) (faults []string, err error) {
	pairs, err := pairsOf(ctx, s.read, "SELECT DISTINCT thing, 0 FROM captures")
	for _, p := range pairs {
		names, err := s.CapturesOf(ctx, p[0])
		if err != nil {
			return faults, err
		}
		for sum := range names {
			if _, _, err := s.Capture(ctx, p[0], sum); err != nil {
				faults = append(faults, err.Error())
			}
		}
	}
	return faults, err
}
