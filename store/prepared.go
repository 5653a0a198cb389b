package store

import (
	"context"
	"database/sql"
	"sync"
)

// prepared is a database that keeps its queries prepared: SQLite takes longer to read
// one than to answer it.
type prepared struct {
	db   *sql.DB
	mu   sync.Mutex
	made map[string]*sql.Stmt
}

// mostPrepared bounds what a search of very many words leaves behind.
const mostPrepared = 64

func connect(name string) (*prepared, error) {
	db, err := sql.Open("sqlite", name)
	if err != nil {
		return nil, err
	}
	return &prepared{db: db, made: map[string]*sql.Stmt{}}, nil
}

// statement is the prepared query, nil for one that cannot be prepared: asking it
// then says why.
func (p *prepared) statement(ctx context.Context, query string) *sql.Stmt {
	p.mu.Lock()
	defer p.mu.Unlock()
	if made := p.made[query]; made != nil || len(p.made) >= mostPrepared {
		return made
	}
	made, err := p.db.PrepareContext(ctx, query)
	if err != nil {
		return nil
	}
	p.made[query] = made
	return made
}

// QueryRowContext asks for one row.
func (p *prepared) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	if s := p.statement(ctx, query); s != nil {
		return s.QueryRowContext(ctx, args...)
	}
	return p.db.QueryRowContext(ctx, query, args...)
}

// QueryContext asks for rows.
func (p *prepared) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	if s := p.statement(ctx, query); s != nil {
		return s.QueryContext(ctx, args...)
	}
	return p.db.QueryContext(ctx, query, args...)
}

// ExecContext makes a change outside a transaction.
func (p *prepared) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	return p.db.ExecContext(ctx, query, args...)
}

// Close ends its connections.
func (p *prepared) Close() error { return p.db.Close() }

// transaction is one writing transaction with the queries of its database.
type transaction struct {
	*sql.Tx
	made map[string]*sql.Stmt
}

// keeps are the queries of an edit, which the writer has prepared.
var keeps = []string{baseQuery, revisionQuery, addQuery, shownQuery, hiddenQuery, headQuery}

// begin begins to write. What is not prepared yet is before the transaction has the
// only connection.
func (p *prepared) begin(ctx context.Context) (*transaction, error) {
	t := &transaction{made: map[string]*sql.Stmt{}}
	for _, query := range keeps {
		t.made[query] = p.statement(ctx, query)
	}
	var err error
	t.Tx, err = p.db.BeginTx(ctx, nil)
	return t, err
}

// QueryRowContext asks for one row.
func (t *transaction) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	if s := t.made[query]; s != nil {
		return t.StmtContext(ctx, s).QueryRowContext(ctx, args...)
	}
	return t.Tx.QueryRowContext(ctx, query, args...)
}

// ExecContext makes a change.
func (t *transaction) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	if s := t.made[query]; s != nil {
		return t.StmtContext(ctx, s).ExecContext(ctx, args...)
	}
	return t.Tx.ExecContext(ctx, query, args...)
}
