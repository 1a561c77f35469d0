package public

import "github.com/gin-gonic/gin"

// Routes are the paths that the listener answers, for tests that go through every one.
func (s *Server) Routes() gin.RoutesInfo { return s.engine.Routes() }
