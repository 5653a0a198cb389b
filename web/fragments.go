package web

import (
	"bytes"
	"fmt"
	"html/template"
	"math"
	"reflect"
	"strconv"

	"github.com/gofiber/template/html/v2"
	lru "github.com/hashicorp/golang-lru/v2"
)

// fragments keep what a template made of the same content before. An edit leaves most
// of a page as it was, and templates are what it takes most of its time for.
type fragments struct {
	views *html.Engine
	made  *lru.Cache[string, template.HTML]
}

// mostFragments are some megabytes.
const mostFragments = 4096

func newFragments(views *html.Engine) (*fragments, error) {
	made, err := lru.New[string, template.HTML](mostFragments)
	if err != nil {
		return nil, fmt.Errorf("keeping fragments: %w", err)
	}
	return &fragments{views, made}, nil
}

// A fragment is what its template is given: the thing, and what it belongs to.
type fragment struct{ It, Of any }

// of makes the fragment of a thing, whole elements all of it.
func (f *fragments) of(name string, it, of any) (template.HTML, error) {
	key, err := content([]byte(name), reflect.ValueOf(fragment{it, of}))
	if err != nil {
		return "", fmt.Errorf("fragment %s: %w", name, err)
	}
	if made, known := f.made.Get(string(key)); known {
		return made, nil
	}
	var text bytes.Buffer
	if err := f.views.Templates.ExecuteTemplate(&text, name, fragment{it, of}); err != nil {
		return "", err
	}
	made := template.HTML(text.String())
	f.made.Add(string(key), made)
	return made, nil
}

// room makes what a station shows, by the template that is named as the station is.
func (f *fragments) room(station string, page any) (template.HTML, error) {
	var text bytes.Buffer
	if err := f.views.Templates.ExecuteTemplate(&text, station, page); err != nil {
		return "", err
	}
	return template.HTML(text.String()), nil
}

// content writes all that a template can see of a value, so that two values are
// written alike only where they are alike: what is not exported it cannot see.
func content(b []byte, v reflect.Value) ([]byte, error) {
	switch v.Kind() {
	case reflect.String:
		b = append(strconv.AppendInt(b, int64(v.Len()), 10), '"')
		return append(b, v.String()...), nil
	case reflect.Bool:
		return strconv.AppendBool(append(b, ' '), v.Bool()), nil
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		return strconv.AppendInt(append(b, ' '), v.Int(), 10), nil
	case reflect.Uint8:
		return strconv.AppendUint(append(b, ' '), v.Uint(), 10), nil
	case reflect.Float64:
		return strconv.AppendUint(append(b, ' '), math.Float64bits(v.Float()), 16), nil
	case reflect.Slice, reflect.Array:
		b = append(strconv.AppendInt(b, int64(v.Len()), 10), '[')
		if v.Kind() == reflect.Slice && v.Type().Elem().Kind() == reflect.Uint8 {
			return append(b, v.Bytes()...), nil
		}
		return contentOfEach(b, v.Len(), v.Index)
	case reflect.Struct:
		return contentOfFields(append(b, '{'), v)
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() {
			return append(b, '-'), nil
		}
		return content(append(b, '>'), v.Elem())
	default:
		return nil, fmt.Errorf("a %s is not kept", v.Type())
	}
}

func contentOfEach(b []byte, count int, at func(int) reflect.Value) (_ []byte, err error) {
	for i := range count {
		if b, err = content(b, at(i)); err != nil {
			return nil, err
		}
	}
	return b, nil
}

func contentOfFields(b []byte, v reflect.Value) (_ []byte, err error) {
	for i := range v.NumField() {
		if !v.Type().Field(i).IsExported() {
			continue
		}
		if b, err = content(b, v.Field(i)); err != nil {
			return nil, err
		}
	}
	return b, nil
}
