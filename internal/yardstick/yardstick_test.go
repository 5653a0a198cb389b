// Package yardstick measures the machine itself, so that figures of another can be compared:
// what the standard library hashes, and how long a disk takes to keep.
package yardstick

import (
	"crypto/sha256"
	"os"
	"testing"
)

// BenchmarkHash is SHA-256 over 64 KiB.
func BenchmarkHash(b *testing.B) {
	block := make([]byte, 64<<10)
	b.SetBytes(int64(len(block)))
	for b.Loop() {
		sha256.Sum256(block)
	}
}

// BenchmarkKeep is one fsync after 4 KiB.
func BenchmarkKeep(b *testing.B) {
	file, err := os.CreateTemp(b.TempDir(), "kept")
	if err != nil {
		b.Fatal(err)
	}
	defer file.Close()
	block := make([]byte, 4<<10)
	for b.Loop() {
		if _, err := file.WriteAt(block, 0); err != nil {
			b.Fatal(err)
		}
		if err := file.Sync(); err != nil {
			b.Fatal(err)
		}
	}
}
