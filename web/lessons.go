package web

import (
	"bytes"
	"context"
	"log/slog"
	"maps"
	"slices"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/store"
)

// lessons are what the runs of the bench's rigs teach the plans of its others. They are kept,
// and looked at again at most once a second: what was run a moment ago may teach a moment later.
type lessons struct {
	store *store.Store
	ref   *reference.Tables

	mu   sync.Mutex
	by   map[int64]lesson // of rigs by their number
	read time.Time
}

type lesson struct {
	revision int64
	teaches  []proof.Lesson
}

// So many rigs teach, those changed last; they are looked at so often while pages are asked for.
const (
	mostTeach = 200
	teachEach = time.Second
)

func newLessons(s *store.Store, ref *reference.Tables) *lessons {
	return &lessons{store: s, ref: ref, by: map[int64]lesson{}}
}

// of are the lessons of all rigs but one.
func (l *lessons) of(ctx context.Context, but int64) (list []proof.Lesson) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if time.Since(l.read) > teachEach {
		l.by = l.readAgain(ctx, l.by)
		l.read = time.Now()
	}
	for _, id := range slices.Sorted(maps.Keys(l.by)) { // in one order, so that one page says one thing
		if id != but {
			list = append(list, l.by[id].teaches...)
		}
	}
	return list
}

// readAgain reads what was changed since. A rig that cannot be read teaches nothing: the bench
// says why.
func (l *lessons) readAgain(ctx context.Context, before map[int64]lesson) map[int64]lesson {
	marks, err := l.store.Marks(ctx, store.RigKind, mostTeach)
	if err != nil {
		slog.Warn("what other rigs teach cannot be read", "err", err)
		return before
	}
	by := make(map[int64]lesson, len(marks))
	for _, mark := range marks {
		if was, some := before[mark.ID]; some && was.revision == mark.Revision {
			by[mark.ID] = was
			continue
		}
		by[mark.ID] = lesson{mark.Revision, l.taughtBy(ctx, mark.ID)}
	}
	return by
}

func (l *lessons) taughtBy(ctx context.Context, id int64) []proof.Lesson {
	head, err := l.store.Load(ctx, store.RigKind, id)
	if err != nil || !bytes.Contains(head.Doc, []byte(`"runs":`)) {
		return nil
	}
	r, err := rig.Decode(head.Doc)
	if err != nil {
		return nil
	}
	return proof.LessonsOf(r, proof.LinkOf(r, l.ref))
}

// teach tells a rig what the bench's others taught, unless that is left out.
func (a *App) teach(c fiber.Ctx, id int64, r *rig.Rig) {
	if lessonsAway(c) {
		proof.Teach(r, nil)
		return
	}
	proof.Teach(r, a.lessons.of(c.Context(), id))
}

// lessonsAway reports that forecasts leave out what other rigs taught.
func lessonsAway(c fiber.Ctx) bool { return c.Cookies(lessonsCookie) == "away" }

// setLessons leaves out what other rigs taught, or takes it in again.
func (a *App) setLessons(c fiber.Ctx) error {
	if lessonsAway(c) {
		return choose(c, lessonsCookie, "in")
	}
	return choose(c, lessonsCookie, "away")
}
