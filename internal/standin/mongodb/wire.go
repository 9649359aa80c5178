package mongodb

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"io"
	"net"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// Operations of the protocol, and where flags say that a checksum ends a message
// (https://www.mongodb.com/docs/manual/reference/mongodb-wire-protocol/).
const (
	opQuery       = 2004 // the first hello alone
	opReply       = 1
	opMsg         = 2013
	withChecksum  = 1
	largest       = 48_000_000
	headerLength  = 16
	ofDocument    = 0
	replyPreamble = 20
)

var order = binary.LittleEndian

// talk answers one client until it goes.
func (s *Server) talk(conn net.Conn) {
	r := bufio.NewReader(conn)
	for {
		var head [headerLength]byte
		if _, err := io.ReadFull(r, head[:]); err != nil {
			return
		}
		length := int(order.Uint32(head[:]))
		if length < headerLength || length > largest+headerLength {
			return
		}
		body := make([]byte, length-headerLength)
		if _, err := io.ReadFull(r, body); err != nil {
			return
		}
		op := order.Uint32(head[12:])
		command, ok := commandIn(op, body)
		if !ok {
			return
		}
		answer, err := bson.Marshal(s.carryOut(command))
		if err != nil {
			return
		}
		out := make([]byte, headerLength)
		if op == opQuery {
			out = append(out, make([]byte, replyPreamble)...)
			order.PutUint32(out[headerLength+16:], 1) // documents
			order.PutUint32(out[12:], opReply)
		} else {
			out = append(out, 0, 0, 0, 0, ofDocument)
			order.PutUint32(out[12:], opMsg)
		}
		out = append(out, answer...)
		order.PutUint32(out, uint32(len(out)))
		copy(out[8:12], head[4:8])
		if _, err := conn.Write(out); err != nil {
			return
		}
	}
}

// commandIn takes the command out of a message: a document, and lists that were sent apart from it.
func commandIn(op uint32, body []byte) (command bson.D, ok bool) {
	switch {
	case op == opQuery && len(body) > 4:
		n := bytes.IndexByte(body[4:], 0)
		at := 4 + n + 1 + 8
		return command, n >= 0 && at < len(body) && bson.Unmarshal(body[at:], &command) == nil
	case op != opMsg || len(body) < 5:
		return nil, false
	}
	end := len(body)
	if order.Uint32(body)&withChecksum != 0 {
		end -= 4
	}
	var lists bson.D
	for at := 4; at < end; {
		kind := body[at]
		at++
		if at+4 > end {
			return nil, false
		}
		n := int(order.Uint32(body[at:]))
		if n < 5 || at+n > end {
			return nil, false
		}
		if kind == ofDocument {
			if bson.Unmarshal(body[at:at+n], &command) != nil {
				return nil, false
			}
			at += n
			continue
		}
		name := bytes.IndexByte(body[at+4:at+n], 0)
		if name < 0 {
			return nil, false
		}
		list := bson.A{}
		for from := at + 4 + name + 1; from < at+n; {
			size := int(order.Uint32(body[from:]))
			var d bson.D
			if size < 5 || from+size > at+n || bson.Unmarshal(body[from:from+size], &d) != nil {
				return nil, false
			}
			list = append(list, d)
			from += size
		}
		lists = append(lists, bson.E{Key: string(body[at+4 : at+4+name]), Value: list})
		at += n
	}
	return append(command, lists...), len(command) > 0
}
