// Package whole writes files that are there whole or not at all.
package whole

import "os"

// Write puts a file in its place in one go: who reads it meanwhile finds it as it was.
func Write(file string, raw []byte, mode os.FileMode) error {
	beside := file + ".new"
	if err := os.WriteFile(beside, raw, mode); err != nil {
		return err
	}
	return os.Rename(beside, file)
}
