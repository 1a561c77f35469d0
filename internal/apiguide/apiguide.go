// Package apiguide writes the contract of the API as a page that people read: one HTML document and one
// style sheet, with no script and nothing from elsewhere.
package apiguide

import (
	"bytes"
	"cmp"
	_ "embed"
	"fmt"
	"html/template"
	"maps"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

//go:embed guide.gohtml
var page string

// CSS is the style sheet of the page, at guide.css beside it.
//
//go:embed guide.css
var CSS []byte

var pageTemplate = template.Must(template.New("guide").Parse(page))

// guide is what the page shows.
type guide struct {
	Title   string
	Groups  []group
	Schemas []schema
}

// group is the operations on one kind of thing.
type group struct {
	Name       string
	Operations []operation
}

// Anchor is where the group stands in the page.
func (g group) Anchor() string { return "on-" + strings.ReplaceAll(g.Name, ": ", "-") }

type operation struct {
	ID, Method, Path, Summary, Description string
	Who                                    string
	Parameters                             []field
	Body, Answer                           shape
	Status                                 string
}

// shape is what is sent or answered: fields, or a schema by its name.
type shape struct {
	Type   kind
	Fields []field
}

type field struct {
	Name, In, Doc string
	Required      bool
	Type          kind
}

// kind is a type in words, with the schema it names.
type kind struct {
	Words, Schema string
}

type schema struct {
	Name   string
	Doc    string
	Fields []field
}

// Write makes the page of a contract.
func Write(of *huma.OpenAPI) ([]byte, error) {
	made := guide{Title: of.Info.Title}
	byName := make(map[string][]operation)
	for path, item := range of.Paths {
		for method, one := range map[string]*huma.Operation{
			"GET": item.Get, "PUT": item.Put, "POST": item.Post, "PATCH": item.Patch, "DELETE": item.Delete,
		} {
			if one != nil {
				name := groupOf(path)
				byName[name] = append(byName[name], operationOf(method, path, one))
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(byName)) {
		operations := byName[name]
		slices.SortFunc(operations, func(a, b operation) int { return cmp.Or(cmp.Compare(a.Path, b.Path), cmp.Compare(a.Method, b.Method)) })
		made.Groups = append(made.Groups, group{name, operations})
	}
	schemas := of.Components.Schemas.Map()
	for _, name := range slices.Sorted(maps.Keys(schemas)) {
		made.Schemas = append(made.Schemas, schema{name, schemas[name].Description, fieldsOf(schemas[name])})
	}
	var out bytes.Buffer
	if err := pageTemplate.Execute(&out, made); err != nil {
		return nil, fmt.Errorf("write the guide to the API: %w", err)
	}
	return out.Bytes(), nil
}

// groupOf names what a path is about: its first part, and the one below a page.
func groupOf(path string) string {
	parts := strings.Split(strings.TrimPrefix(path, "/api/"), "/")
	if parts[0] == "pages" && len(parts) > 2 {
		return "pages: " + parts[2]
	}
	return parts[0]
}

func operationOf(method, path string, one *huma.Operation) operation {
	made := operation{ID: one.OperationID, Method: method, Path: path, Summary: one.Summary, Description: one.Description, Who: whoMay(one)}
	for _, each := range one.Parameters {
		doc := docOf(each.Description, each.Schema)
		made.Parameters = append(made.Parameters, field{each.Name, each.In, doc, each.Required, kindOf(each.Schema)})
	}
	if one.RequestBody != nil {
		made.Body = shapeOf(one.RequestBody.Content)
	}
	for _, status := range slices.Sorted(maps.Keys(one.Responses)) {
		if strings.HasPrefix(status, "2") {
			made.Status, made.Answer = status, shapeOf(one.Responses[status].Content)
			break
		}
	}
	return made
}

// whoMay says in words who may use an operation.
func whoMay(one *huma.Operation) string {
	if len(one.Security) == 0 {
		return "Anybody."
	}
	scopes := map[string]string{
		"account": "Whoever is signed in, about their own account; no program.", "any page": "for one page at least", "page": "for that page",
		"workspace": "for the whole workspace",
	}
	roles := map[string]string{"runs": "Whoever runs the workspace", "edits": "Whoever edits", "reads": "Whoever reads, or may more"}
	scope := scopes[fmt.Sprint(one.Extensions["x-scope"])]
	role := roles[fmt.Sprint(one.Extensions["x-role"])]
	if role == "" {
		return scope
	}
	return role + ", " + scope + "."
}

func shapeOf(content map[string]*huma.MediaType) shape {
	names := slices.Sorted(maps.Keys(content))
	if len(names) == 0 {
		return shape{}
	}
	of := content[names[0]].Schema
	switch {
	case names[0] != "application/json" || of == nil:
		return shape{Type: kind{Words: "a file, " + names[0]}}
	case of.Ref == "" && of.Type == huma.TypeObject:
		return shape{Fields: fieldsOf(of)}
	}
	return shape{Type: kindOf(of)}
}

func fieldsOf(of *huma.Schema) []field {
	var fields []field
	for _, name := range slices.Sorted(maps.Keys(of.Properties)) {
		property := of.Properties[name]
		fields = append(fields, field{name, "", docOf(property.Description, property), slices.Contains(of.Required, name), kindOf(property)})
	}
	return fields
}

// docOf adds what values there can be.
func docOf(doc string, of *huma.Schema) string {
	if of == nil {
		return doc
	}
	values := of.Enum
	if of.Items != nil && len(values) == 0 {
		values = of.Items.Enum
	}
	if len(values) == 0 {
		return doc
	}
	words := make([]string, len(values))
	for i, value := range values {
		words[i] = fmt.Sprint(value)
	}
	return strings.TrimSpace(doc + " One of: " + strings.Join(words, ", ") + ".")
}

func kindOf(of *huma.Schema) kind {
	switch {
	case of == nil:
		return kind{}
	case of.Ref != "":
		name := of.Ref[strings.LastIndexByte(of.Ref, '/')+1:]
		return kind{name, name}
	case of.Type == huma.TypeArray:
		inner := kindOf(of.Items)
		return kind{"list of " + inner.Words, inner.Schema}
	case of.Type == huma.TypeObject && len(of.Properties) == 0:
		if values, ok := of.AdditionalProperties.(*huma.Schema); ok {
			inner := kindOf(values)
			return kind{inner.Words + " by key", inner.Schema}
		}
		return kind{Words: "object"}
	case of.Format != "" && of.Type == huma.TypeString:
		return kind{Words: of.Format}
	}
	return kind{Words: of.Type}
}
