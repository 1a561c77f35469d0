package page

import (
	_ "embed"
	"encoding/json"
	"fmt"
)

// Schema is the number of the shape that documents have today. It rises with every
// change after which a document of before would be read otherwise than it was meant,
// a changed default among them.
const Schema = 2

// upgraders bring a document, as JSON, from the schema of their index to the next.
var upgraders = [Schema]func(document map[string]any) error{
	0: fillDefaults,
	1: letEitherHold,
}

// letEitherHold keeps what spans and weekly rules of the same thing meant before schema 2: in force where either said so.
func letEitherHold(document map[string]any) error {
	holdEither(document)
	return nil
}

func holdEither(value any) {
	switch value := value.(type) {
	case map[string]any:
		spans, _ := value["spans"].([]any)
		weekly, _ := value["weekly"].([]any)
		if len(spans) > 0 && len(weekly) > 0 {
			value["either"] = true
		}
		for _, inner := range value {
			holdEither(inner)
		}
	case []any:
		for _, inner := range value {
			holdEither(inner)
		}
	}
}

// defaults0 is what a document meant by leaving something out before documents had a
// schema number.
//
//go:embed schema/defaults_0.json
var defaults0 []byte

func fillDefaults(document map[string]any) error {
	var defaults map[string]any
	if err := json.Unmarshal(defaults0, &defaults); err != nil {
		return err
	}
	fillFrom(document, defaults)
	return nil
}

// fillFrom adds what is missing in an object, and in the objects in it.
func fillFrom(object, defaults map[string]any) {
	for name, value := range defaults {
		given, there := object[name]
		if !there || given == nil {
			object[name] = value
			continue
		}
		inner, isObject := given.(map[string]any)
		innerDefaults, haveDefaults := value.(map[string]any)
		if isObject && haveDefaults {
			fillFrom(inner, innerDefaults)
		}
	}
}

// UnmarshalJSON reads a document of any schema up to today's and gives it today's.
func (d *Document) UnmarshalJSON(data []byte) error {
	var numbered struct {
		Schema int `json:"schema"`
	}
	if err := json.Unmarshal(data, &numbered); err != nil {
		return err
	}
	if numbered.Schema > Schema || numbered.Schema < 0 {
		return fmt.Errorf("the page has schema %d; this version of the program reads schemas up to %d", numbered.Schema, Schema)
	}
	if numbered.Schema < Schema {
		var err error
		if data, err = upgrade(data, numbered.Schema); err != nil {
			return err
		}
	}
	type withoutMethods Document
	var read withoutMethods
	if err := json.Unmarshal(data, &read); err != nil {
		return err
	}
	read.Schema = Schema
	*d = Document(read)
	return nil
}

func upgrade(data []byte, from int) ([]byte, error) {
	var document map[string]any
	if err := json.Unmarshal(data, &document); err != nil {
		return nil, err
	}
	if document == nil {
		document = make(map[string]any) // null
	}
	for schema := from; schema < Schema; schema++ {
		if err := upgraders[schema](document); err != nil {
			return nil, fmt.Errorf("bring a page from schema %d to %d: %w", schema, schema+1, err)
		}
	}
	return json.Marshal(document)
}
