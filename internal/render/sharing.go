package render

import (
	"fmt"
	"strings"

	"jundle/internal/core/page"
	"jundle/internal/sharing"
)

// SharingPath is below which the public listener has the pictures that are shown with posts.
const SharingPath = "/-/sharing/"

// sharedPicture is what is shown with a post that leads to the page.
type sharedPicture struct {
	Address       string
	Width, Height int
}

func pictureOf(doc page.Document, visit Visit) sharedPicture {
	if own := doc.Sharing.Picture; own != nil {
		return sharedPicture{visit.Origin + "/media/" + own.Media, own.Width, own.Height}
	}
	return sharedPicture{fmt.Sprintf("%s%s%s/%d.png", visit.Origin, SharingPath, visit.Address, visit.Edition), sharing.Width, sharing.Height}
}

// iconOf is the smallest rendition of the page's picture, for tabs; empty for none.
func iconOf(doc page.Document) string {
	of := doc.Header.Picture
	if of == nil {
		return ""
	}
	smallest, width := of.Media, of.Width
	for _, size := range of.Sizes {
		if size.Width < width {
			smallest, width = size.Media, size.Width
		}
	}
	return smallest
}

// profilePage says whose page it is, for search engines. Source: schema.org, ProfilePage.
type profilePage struct {
	Context    string `json:"@context"`
	Type       string `json:"@type"`
	URL        string `json:"url"`
	InLanguage string `json:"inLanguage"`
	MainEntity entity `json:"mainEntity"`
}

// entity is a Person or an Organization.
type entity struct {
	Type        string   `json:"@type"`
	Name        string   `json:"name"`
	URL         string   `json:"url"`
	Description string   `json:"description,omitempty"`
	Image       string   `json:"image,omitempty"`
	SameAs      []string `json:"sameAs,omitempty"`
}

func profileOf(doc page.Document, visit Visit) *profilePage {
	canonical := visit.canonical()
	made := profilePage{
		Context: "https://schema.org", Type: "ProfilePage", URL: canonical, InLanguage: doc.Language,
		MainEntity: entity{Type: "Person", Name: doc.SharedTitle(), URL: canonical, Description: doc.SharedDescription()},
	}
	if doc.Sharing.Who == "organisation" {
		made.MainEntity.Type = "Organization"
	}
	if doc.Header.Picture != nil {
		made.MainEntity.Image = visit.Origin + "/media/" + doc.Header.Picture.Media
	}
	for _, item := range doc.Icons.Items {
		if strings.HasPrefix(item.Address, "http") {
			made.MainEntity.SameAs = append(made.MainEntity.SameAs, item.Address)
		}
	}
	return &made
}
