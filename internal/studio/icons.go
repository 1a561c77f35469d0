package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/address"
	"jundle/internal/icons"
)

// ReadAddress is what is made of an address: how it is linked, the icon that
// belongs to it, and what to call it.
type ReadAddress struct {
	Icon    icons.Entry `json:"icon"`
	Known   bool        `json:"known" doc:"Whether the icon library knows the host; a plain sign otherwise."`
	Name    string      `json:"name"`
	Address string      `json:"address" doc:"As it is to be linked."`
}

func (s *Server) addIcons() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "search-icons", Method: http.MethodGet, Path: "/api/icons", Summary: "Search the icon libraries",
	}), func(_ context.Context, in *struct {
		Query string `query:"q" maxLength:"60"`
	},
	) (*listOutput[icons.Entry], error) {
		const most = 72
		return &listOutput[icons.Entry]{icons.Search(in.Query, most)}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "read-address", Method: http.MethodGet, Path: "/api/addresses",
		Summary: "Read an address: how it is linked, and which icon belongs to it",
	}), func(_ context.Context, in *struct {
		Address string `query:"address" maxLength:"3000"`
	},
	) (*struct{ Body ReadAddress }, error) {
		link, err := address.ParseTyped(in.Address)
		if err != nil {
			return nil, refuse("address", err.Error())
		}
		return &struct{ Body ReadAddress }{readAddress(link)}, nil
	})
}

func readAddress(link address.Link) ReadAddress {
	found := ReadAddress{Address: link.URL, Name: link.Name()}
	if link.IsWeb() {
		if found.Icon, found.Known = icons.ForHost(link.Host); found.Known {
			found.Name = found.Icon.Title
			return found
		}
	}
	sign := map[string]string{"mailto": "mail", "tel": "phone", "sms": "message-square"}[link.Scheme]
	if sign == "" {
		sign = "globe"
	}
	found.Icon, _ = icons.Find(icons.Signs, sign)
	return found
}
