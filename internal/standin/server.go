package standin

import (
	"net"
	"sync"
)

// A Server listens, on this machine as a rule, and lets each client be talked to.
type Server struct {
	listener net.Listener
	mutex    sync.Mutex
	open     map[net.Conn]bool
	clients  sync.WaitGroup
}

// Serve listens at the address.
func Serve(address string, talk func(net.Conn)) (*Server, error) {
	l, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	s := &Server{listener: l, open: map[net.Conn]bool{}}
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			s.mutex.Lock()
			s.open[conn] = true
			s.clients.Add(1)
			s.mutex.Unlock()
			go func() {
				defer s.clients.Done()
				talk(conn)
				conn.Close()
				s.mutex.Lock()
				delete(s.open, conn)
				s.mutex.Unlock()
			}()
		}
	}()
	return s, nil
}

// Addr is where it listens.
func (s *Server) Addr() net.Addr { return s.listener.Addr() }

// Close ends it, and with it all clients' connections.
func (s *Server) Close() {
	s.listener.Close()
	s.mutex.Lock()
	for conn := range s.open {
		conn.Close()
	}
	s.mutex.Unlock()
	s.clients.Wait()
}
