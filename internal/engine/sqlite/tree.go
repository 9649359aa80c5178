package sqlite

import (
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"os"
)

// trees counts pages and rows by walking the trees in the file itself, as
// https://www.sqlite.org/fileformat2.html (sections 1.5 and 1.6) lays them
// out. The engine can tell the same (dbstat), at ten times the cost. It holds
// only while a read transaction keeps writers out, and for a file without a
// write-ahead log, whose newest pages lie elsewhere.
type trees struct {
	file    *os.File
	page    int64    // bytes of a page
	usable  int64    // without the part that extensions keep at each page's end
	left    int64    // pages not yet met; a damaged tree may lead in circles
	scratch [][]byte // one page per level of the tree
	// What the head of the file says besides.
	encoding, userVersion, applicationID uint32
	// record, where set, is given each row of a table.
	record func([]byte) error
}

// utf8 is how the head of a file calls that encoding.
const utf8 = 1

// errWAL says that the file alone does not hold the database.
var errWAL = errors.New("the file has a write-ahead log")

// openTrees reads the head of the file.
func openTrees(file *os.File) (*trees, error) {
	head := make([]byte, 100)
	if _, err := file.ReadAt(head, 0); err != nil {
		return nil, err
	}
	info, err := file.Stat()
	if err != nil {
		return nil, err
	}
	t := &trees{file: file, page: pageSize(head)}
	t.usable = t.page - int64(head[20])
	if t.page < 512 || t.usable < 480 {
		return nil, fmt.Errorf("pages of %d bytes", t.page)
	}
	t.left = info.Size() / t.page
	word := func(at int) uint32 { return binary.BigEndian.Uint32(head[at:]) }
	t.encoding, t.userVersion, t.applicationID = word(56), word(60), word(68)
	if head[18] != 1 || head[19] != 1 {
		return nil, errWAL
	}
	return t, nil
}

// pageSize is what the head of a database file says; 0 where it cannot be.
func pageSize(head []byte) int64 {
	page := int64(binary.BigEndian.Uint16(head[16:]))
	if page == 1 {
		page = 65536
	}
	return page
}

// The kinds of page in a tree.
const (
	innerIndex = 2
	innerTable = 5
	leafIndex  = 10
	leafTable  = 13
)

// count walks the tree that begins at the page.
func (t *trees) count(root int64) (p pages, err error) {
	err = t.walk(root, 0, &p)
	return p, err
}

func (t *trees) walk(number int64, level int, p *pages) error {
	if t.left--; t.left < 0 || number < 1 || level > 20 {
		return errors.New("the pages of a tree do not hang together")
	}
	if level == len(t.scratch) {
		t.scratch = append(t.scratch, make([]byte, t.page))
	}
	page := t.scratch[level]
	if _, err := t.file.ReadAt(page, (number-1)*t.page); err != nil {
		if err == io.EOF {
			err = io.ErrUnexpectedEOF
		}
		return err
	}
	p.bytes += t.page
	head := page
	if number == 1 {
		head = page[100:]
	}
	kind, cells := head[0], int64(binary.BigEndian.Uint16(head[3:]))
	start, children := 8, false
	switch kind {
	case innerIndex, innerTable:
		start, children = 12, true
		p.inner += cells
	case leafIndex, leafTable:
		p.leaves += cells
	default:
		return fmt.Errorf("page %d is of no kind that a tree has", number)
	}
	if int64(start)+2*cells > int64(len(head)) {
		return fmt.Errorf("page %d has too many cells", number)
	}
	for i := range cells {
		at := int64(binary.BigEndian.Uint16(head[int64(start)+2*i:]))
		if at+4 > t.usable {
			return fmt.Errorf("a cell of page %d lies outside it", number)
		}
		cell := page[at:t.usable]
		if children {
			if err := t.walk(int64(binary.BigEndian.Uint32(cell)), level+1, p); err != nil {
				return err
			}
			cell = cell[4:]
		}
		if kind != innerTable {
			size, n := varint(cell)
			local, more := t.spread(size, kind == leafTable)
			if t.left -= more; n == 0 || size < 0 || more < 0 || t.left < 0 {
				return fmt.Errorf("a cell of page %d is longer than the file", number)
			}
			p.bytes += t.page * more
			if t.record != nil && kind == leafTable {
				if err := t.row(cell[n:], size, local); err != nil {
					return err
				}
			}
		}
	}
	if children {
		return t.walk(int64(binary.BigEndian.Uint32(head[8:])), level+1, p)
	}
	return nil
}

// spread tells how many bytes of a payload stand in the cell itself, and how
// many further pages the rest takes.
func (t *trees) spread(size int64, table bool) (local, more int64) {
	most := (t.usable-12)*64/255 - 23
	if table {
		most = t.usable - 35
	}
	if size <= most {
		return size, 0
	}
	least := (t.usable-12)*32/255 - 23
	if local = least + (size-least)%(t.usable-4); local > most {
		local = least
	}
	return local, (size - local + t.usable - 5) / (t.usable - 4)
}

// row gathers a row of a table, of which so many bytes stand in the cell and
// the rest on further pages, and hands it on. The cell begins after the size.
func (t *trees) row(cell []byte, size, local int64) error {
	_, n := varint(cell) // the rowid
	if n == 0 || int64(n)+local > int64(len(cell)) {
		return errRecord
	}
	whole, rest := cell[n:int64(n)+local], cell[int64(n)+local:]
	if local == size {
		return t.record(whole)
	}
	whole = append(make([]byte, 0, size), whole...)
	page := make([]byte, t.page)
	for len(rest) >= 4 && int64(len(whole)) < size {
		next := int64(binary.BigEndian.Uint32(rest))
		if _, err := t.file.ReadAt(page, (next-1)*t.page); err != nil {
			return err
		}
		rest = page
		whole = append(whole, page[4:min(t.usable, 4+size-int64(len(whole)))]...)
	}
	if int64(len(whole)) < size {
		return errRecord
	}
	return t.record(whole)
}
