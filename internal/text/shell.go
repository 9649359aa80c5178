package text

import "strings"

// plainWord are the letters that a shell takes as they are.
const plainWord = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-./:@%+=,"

// Shell writes a word as a shell takes it (POSIX quoting).
func Shell(word string) string {
	word = Line(word)
	if word != "" && strings.Trim(word, plainWord) == "" {
		return word
	}
	return "'" + strings.ReplaceAll(word, "'", `'\''`) + "'"
}

// Shells writes words as a command line.
func Shells(words []string) string {
	shown := make([]string, len(words))
	for i, w := range words {
		shown[i] = Shell(w)
	}
	return strings.Join(shown, " ")
}
