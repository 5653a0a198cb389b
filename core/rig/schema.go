package rig

import (
	"reflect"
)

// Schema is the JSON Schema (draft 2020-12) of the format, made from the struct
// tags. It states all that holds field by field; unique names and references
// are checked by Validate alone.
func Schema() ([]byte, error) {
	defs := map[string]any{}
	root := structSchema(reflect.TypeFor[Rig](), defs)
	root["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	root["title"] = Format
	root["description"] = "A rig of Kolvan: host, route, card, supplies, leads, the room for the card and the brief. Any fact may be " +
		"left out or \"unknown\"."
	root["properties"].(map[string]any)["format"] = map[string]any{"const": Format}
	root["$defs"] = defs
	return Encode(root)
}

type schema = map[string]any

func structSchema(t reflect.Type, defs schema) schema {
	properties := schema{}
	var required []string
	for _, field := range fileFields(t) {
		name := jsonName(field)
		properties[name] = fieldSchema(field, defs)
		if spec, isLeaf := leaf(field); isLeaf && spec.Needed {
			required = append(required, name)
			properties[name].(schema)["minLength"] = 1
		}
	}
	s := schema{"type": "object", "properties": properties, "additionalProperties": false}
	if required != nil {
		s["required"] = required
	}
	return s
}

func fieldSchema(field reflect.StructField, defs schema) schema {
	spec, isLeaf := leaf(field)
	if isLeaf {
		return leafSchema(spec)
	}
	t := field.Type
	if t.Kind() == reflect.Slice {
		return schema{"type": "array", "maxItems": spec.Most, "items": reference(t.Elem(), defs), "description": spec.Doc}
	}
	s := reference(t, defs)
	s["description"] = spec.Doc
	return s
}

func reference(t reflect.Type, defs schema) schema {
	if _, made := defs[t.Name()]; !made {
		defs[t.Name()] = true // holds the place while it is made
		defs[t.Name()] = structSchema(t, defs)
	}
	return schema{"$ref": "#/$defs/" + t.Name()}
}

func leafSchema(spec Spec) schema {
	value := valueSchema(spec)
	if !spec.Fact {
		value["description"] = spec.Doc
		return value
	}
	object := schema{
		"type":                 "object",
		"additionalProperties": false,
		"required":             []string{"value"},
		"properties": schema{
			"value":  schema{"anyOf": []any{value, schema{"const": unknownWord}}},
			"source": schema{"enum": append(Source("").Words().All(), "")},
			"remark": schema{"type": "string", "maxLength": maxText},
			"as": schema{"type": "string", "maxLength": maxText,
				"description": "The value as a person typed it, where that was more than a number."},
		},
	}
	if spec.Kind == Number || spec.Kind == Whole {
		object["properties"].(schema)["tolerance"] = schema{"type": "number", "minimum": 0, "maximum": maxNumber}
	}
	return schema{"description": spec.Doc, "anyOf": []any{value, schema{"const": unknownWord}, object}}
}

func valueSchema(spec Spec) schema {
	switch spec.Kind {
	case Flag:
		return schema{"type": "boolean"}
	case Whole:
		return numberSchema("integer", spec)
	case Number:
		return numberSchema("number", spec)
	case Choice:
		return schema{"enum": spec.Choices}
	case ChoiceList:
		return schema{"type": "array", "maxItems": maxItems, "items": schema{"enum": spec.Choices}}
	case TextList:
		return schema{"type": "array", "maxItems": maxItems, "items": schema{"type": "string", "maxLength": maxText}}
	default:
		return schema{"type": "string", "maxLength": maxText}
	}
}

func numberSchema(kind string, spec Spec) schema {
	if len(spec.Among) > 0 {
		return schema{"enum": spec.Among}
	}
	return schema{"type": kind, "minimum": spec.Min, "maximum": spec.Max}
}
