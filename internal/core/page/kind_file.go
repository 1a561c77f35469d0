package page

import (
	"net/url"
	"strconv"
	"strings"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// File hands out a file: one that was uploaded, or one by address.
type File struct {
	Lead
	Title         string `json:"title" spoken:"line" doc:"At most 120 characters."`
	Line          string `json:"line,omitempty" spoken:"line" doc:"A second, quieter line; at most 160 characters."`
	Address       string `json:"address,omitempty" doc:"Where the file is, when it was not uploaded."`
	DestinationID string `json:"destinationId,omitempty" doc:"The destination of the address; found or made when the page is saved."`
	Media         string `json:"media,omitempty" doc:"File name below /media/ of an uploaded one."`
	Name          string `json:"name,omitempty" doc:"What an uploaded file is saved as; at most 120 characters."`
	Bytes         int    `json:"bytes,omitempty" doc:"Size of an uploaded file."`
}

func (f *File) name() string { return f.Title }

func (f *File) nameAfterTarget() {
	fill(&f.Title, f.Name)
	fill(&f.Title, nameOf(f.Address))
}

func (f *File) tidy(problems *invalid.List, where string) {
	f.Lead.tidy(problems, where)
	f.Title = problems.Line(where+"/title", "The title", f.Title, MaxTitle)
	f.Line = problems.Line(where+"/line", "The second line", f.Line, MaxSecond)
	f.Name = strings.NewReplacer("/", "-", `\`, "-").Replace(problems.Line(where+"/name", "The name of the file", f.Name, MaxTitle))
	if f.Media != "" {
		if !picture.IsFileName(f.Media) {
			problems.Add(where+"/media", "This file is not one that was uploaded here.")
		}
		f.Address = ""
		return
	}
	f.Address = tidyAddress(problems, where+"/address", f.Address, false)
}

// DownloadPath is the path below which an uploaded file is handed out under its
// own name.
func DownloadPath(media, name string) string {
	if name == "" {
		name = "file"
	}
	return "/files/" + media + "/" + url.PathEscape(name)
}

func (f *File) targets() []Target {
	if f.Media != "" {
		return []Target{{Name: f.Title, Address: DownloadPath(f.Media, f.Name)}}
	}
	return []Target{{Name: f.Title, Address: f.Address, DestinationID: f.DestinationID}}
}

func (f *File) links(visit func(link Link)) { visit(Link{&f.Address, &f.DestinationID, f.Title}) }

func (f *File) files() map[string]string {
	files := f.Lead.files()
	files["media"] = f.Media
	return files
}

// About is the kind and size of the file, for the visitor to know beforehand;
// empty when nothing is known.
func (f *File) About() string {
	name := f.Name
	if f.Media == "" {
		if parsed, err := url.Parse(f.Address); err == nil {
			name = parsed.Path
		}
	}
	var parts []string
	if dot := strings.LastIndexByte(name, '.'); dot >= 0 && len(name)-dot <= 6 && !strings.ContainsAny(name[dot:], "/ ") {
		parts = append(parts, strings.ToUpper(name[dot+1:]))
	}
	if f.Media != "" && f.Bytes > 0 {
		parts = append(parts, sizeWords(f.Bytes))
	}
	return strings.Join(parts, ", ")
}

func sizeWords(bytes int) string {
	if bytes < 950_000 {
		return strconv.Itoa(max(1, (bytes+500)/1000)) + " kB"
	}
	return strconv.FormatFloat(float64(bytes)/1e6, 'f', 1, 64) + " MB"
}

// Texts implements Content.
func (f *File) Texts(string) (headings, text string) { return "", f.Title + f.Line + f.About() }

func (f *File) facts() []fact {
	return append(f.Lead.facts(), fact{"second line", f.Line}, fact{"file", f.Media}, fact{"file name", f.Name})
}
