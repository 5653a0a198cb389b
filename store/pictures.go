package store

import (
	"context"
	"fmt"
)

// KeepPicture keeps a picture (JPEG) of a step of a rig's build.
func (s *Store) KeepPicture(ctx context.Context, rig int64, step string, image []byte) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(
			ctx, "INSERT INTO pictures (thing, step, image, sum) VALUES (?, ?, ?, ?)", rig, step, image, sumOf(step, image),
		)
		if err != nil {
			return fmt.Errorf("keeping the picture: %w", err)
		}
		return nil
	})
}

// PicturesOf lists the pictures of a step by their numbers, the first one first.
func (s *Store) PicturesOf(ctx context.Context, rig int64, step string) (ids []int64, err error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	rows, err := s.read.QueryContext(ctx, "SELECT id FROM pictures WHERE thing = ? AND step = ? ORDER BY id", rig, step)
	if err != nil {
		return nil, s.explain(fmt.Errorf("listing pictures: %w", err))
	}
	defer rows.Close()
	for rows.Next() {
		var id int64
		if err := rows.Scan(&id); err != nil {
			return nil, fmt.Errorf("listing pictures: %w", err)
		}
		ids = append(ids, id)
	}
	return ids, rows.Err()
}

// StepPicture is the number of a picture, and the step it is of.
type StepPicture struct {
	ID   int64
	Step string
}

// PicturesOfRig lists all pictures of a rig, the first one first.
func (s *Store) PicturesOfRig(ctx context.Context, rig int64) (list []StepPicture, err error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	rows, err := s.read.QueryContext(ctx, "SELECT id, step FROM pictures WHERE thing = ? ORDER BY id", rig)
	if err != nil {
		return nil, s.explain(fmt.Errorf("listing pictures: %w", err))
	}
	defer rows.Close()
	for rows.Next() {
		var p StepPicture
		if err := rows.Scan(&p.ID, &p.Step); err != nil {
			return nil, fmt.Errorf("listing pictures: %w", err)
		}
		list = append(list, p)
	}
	return list, rows.Err()
}

// Picture returns a picture of a rig, ErrNotFound without it. One that is not what was
// kept is an error.
func (s *Store) Picture(ctx context.Context, rig, id int64) ([]byte, error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	_, image, err := pictureOf(ctx, s.read, rig, id)
	return image, s.explain(err)
}

func pictureOf(ctx context.Context, db rowAsker, rig, id int64) (step string, image []byte, err error) {
	var sum string
	err = db.QueryRowContext(ctx, "SELECT step, image, sum FROM pictures WHERE thing = ? AND id = ?", rig, id).Scan(&step, &image, &sum)
	switch {
	case err != nil:
		return "", nil, fmt.Errorf("loading the picture: %w", orNotFound(err))
	case sumOf(step, image) != sum:
		return "", nil, &Broken{fmt.Sprintf("picture %d of rig %d", id, rig)}
	}
	return step, image, nil
}

// DropPicture throws a picture away; none is none.
func (s *Store) DropPicture(ctx context.Context, rig, id int64) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM pictures WHERE thing = ? AND id = ?", rig, id)
		return err
	})
}
