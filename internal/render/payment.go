package render

import (
	"fmt"

	"jundle/internal/core/page"
)

// PaymentForm is a form by which somebody pays, as it is drawn.
type PaymentForm struct {
	page.Payment
	// ID begins those of its fields; Own is the class of its block with a blank before it.
	ID, Class, Corners string
	// Action is where it is sent; empty where it cannot be.
	Action   string
	Language string
	// Lang is the language that the page is read in; empty for a page in one language.
	Lang string
	// Choice, Typed and Said are what was filled in before, and Wrong what is wrong about it.
	Choice, Typed, Said, Wrong string
}

// PayForm is that of a block.
func (v blockView) PayForm() PaymentForm {
	content, _ := v.C.(*page.Payment)
	return PaymentForm{
		Payment: *content, ID: "at-" + v.Key, Class: v.Own, Corners: v.Corners, Language: v.Language, Action: v.painter.link(v.Key, ""),
		Lang: v.painter.visit.Reads,
	}
}

// PaymentChoice is one of the amounts to choose from.
type PaymentChoice struct {
	Value, Shown string
	Chosen       bool
}

// Offered are the amounts to choose from: the one in the middle is chosen unless another was before.
func (f PaymentForm) Offered() []PaymentChoice {
	all := f.Choices()
	shown := make([]PaymentChoice, len(all))
	chosen := len(all) / 2
	for i, each := range all {
		shown[i] = PaymentChoice{Value: fmt.Sprint(each.Minor), Shown: each.In(f.Language)}
		if shown[i].Value == f.Choice {
			chosen = i
		}
	}
	for i := range shown {
		shown[i].Chosen = i == chosen && f.Choice != "own"
	}
	return shown
}

// ShownPrice is the price where there is nothing to choose; empty where there is.
func (f PaymentForm) ShownPrice() string {
	if price, fixed := f.Price(); fixed {
		return price.In(f.Language)
	}
	return ""
}

// PayHosts are the hosts of a site as a policy names them: browsers let a form lead no further (CSP 3 s6.4.2), redirects
// among it. None for no site.
func PayHosts(site string, reroute func(address string) string) []string {
	if site == "" {
		return nil
	}
	hosts := []string{"https://" + site, "https://*." + site}
	if reroute != nil {
		hosts = withHost(hosts, reroute("https://"+site+"/"))
	}
	return hosts
}
