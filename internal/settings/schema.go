package settings

import (
	"slices"

	"nexdal/internal/rule"
	"nexdal/internal/rule/house"
)

type object = map[string]any

// Schema is the JSON Schema of the settings file, for editors
// (https://json-schema.org/draft/2020-12).
func Schema(book []*rule.Rule) any {
	severity := object{"enum": []string{"error", "warning", "notice", "off"}}
	rules := object{}
	for _, r := range book {
		options := object{"severity": object{"$ref": "#/$defs/severity"}}
		for _, o := range r.Options {
			options[o.Name] = optionSchema(o)
		}
		rules[r.ID] = object{"description": r.Title, "oneOf": []any{object{"$ref": "#/$defs/severity"},
			object{"type": "object", "properties": options, "additionalProperties": false}}}
	}
	anyRules := object{"type": "object", "properties": rules, "patternProperties": object{"[*?]|^house/": object{}}, "additionalProperties": false}
	own := object{"keep": object{"type": "object", "additionalProperties": object{"type": "string"}}}
	for _, l := range houseLists {
		i := slices.IndexFunc(book, func(r *rule.Rule) bool { return r.ID == l.rule })
		own[l.key] = optionSchema(*book[i].Option(l.option))
	}
	names := object{}
	for _, r := range book {
		if r.ID == "name/pattern" {
			for _, o := range r.Options {
				names[o.Name] = optionSchema(o)
			}
		}
	}
	members := object{}
	for _, m := range house.Members {
		members[m] = object{"type": "string"}
	}
	members["id"] = object{"type": "string", "pattern": "^house/[a-z][a-z0-9-]*$"}
	members["severity"] = object{"$ref": "#/$defs/severity"}
	members["for"] = object{"enum": house.Kinds()}
	members["change"] = object{"type": "object"}
	closed := func(properties object) object {
		return object{"type": "object", "properties": properties, "additionalProperties": false}
	}
	houseRule := closed(members)
	houseRule["required"] = []string{"id", "for", "when", "message"}
	source := object{}
	for _, m := range sourceMembers {
		source[m] = object{"type": "string"}
	}
	patterns := object{"oneOf": []any{object{"type": "string"}, object{"type": "array", "items": object{"type": "string"}}}}
	source["schemas"], source["without"] = patterns, patterns
	source = closed(source)
	source["required"] = []string{"address"}
	top := closed(object{
		"format":      object{"const": format},
		"include":     object{"oneOf": []any{object{"type": "string"}, object{"type": "array", "items": object{"type": "string"}}}},
		"sources":     object{"type": "object", "additionalProperties": object{"oneOf": []any{object{"type": "string"}, source}}},
		"scopes":      object{"type": "object", "additionalProperties": object{"type": "array", "items": object{"type": "string"}, "minItems": 1}},
		"rules":       object{"$ref": "#/$defs/rules"},
		"tables":      object{"type": "object", "additionalProperties": object{"$ref": "#/$defs/rules"}},
		"names":       closed(names),
		"house":       closed(own),
		"house-rules": object{"type": "array", "items": houseRule},
		"price": object{"type": "object", "additionalProperties": false, "properties": object{
			"tebibyte": object{"type": "number", "minimum": 0, "description": "what an engine bills for 2^40 bytes that it reads"},
			"currency": object{"type": "string"}}},
	})
	top["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	top["title"] = "Settings of Nexdal"
	top["description"] = "See settings.md for what the members mean."
	top["$defs"] = object{"severity": severity, "rules": anyRules}
	return top
}

func optionSchema(o rule.Option) object {
	s := object{"description": o.Doc, "default": o.Default}
	text := object{"type": "string"}
	if len(o.Choices) > 0 {
		text = object{"enum": o.Choices}
	}
	switch o.Default.(type) {
	case int64:
		s["type"], s["minimum"] = "integer", 0
	case float64:
		s["type"], s["minimum"] = "number", 0
	case []string:
		s["oneOf"] = []any{text, object{"type": "array", "items": text}}
	default:
		for k, v := range text {
			s[k] = v
		}
	}
	return s
}
