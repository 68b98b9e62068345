package vividperch_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// An enumerated type is a string type with constants. What a tag lists of it, for the page's types, are exactly its constants: one that is
// added, renamed or forgotten is found here, wherever it stands.
func TestEnumerationsAreDeclaredOnce(t *testing.T) {
	constants := map[string][]string{} // by package folder and type
	type listed struct {
		at    token.Position
		kind  string
		words []string
	}
	var tags []listed
	files := token.NewFileSet()
	eachFile(t, files, func(folder string, f *ast.File) {
		imports := map[string]string{}
		for _, i := range f.Imports {
			path, _ := strconv.Unquote(i.Path.Value)
			if own, ok := strings.CutPrefix(path, "vividperch/"); ok {
				imports[filepath.Base(own)] = own
			}
		}
		ast.Inspect(f, func(n ast.Node) bool {
			switch x := n.(type) {
			case *ast.ValueSpec:
				name, typed := x.Type.(*ast.Ident)
				for _, v := range x.Values {
					lit, literal := v.(*ast.BasicLit)
					if typed && literal && lit.Kind == token.STRING {
						word, _ := strconv.Unquote(lit.Value)
						constants[folder+"."+name.Name] = append(constants[folder+"."+name.Name], word)
					}
				}
			case *ast.Field:
				if x.Tag == nil {
					return true
				}
				tag, _ := strconv.Unquote(x.Tag.Value)
				words, ok := reflect.StructTag(tag).Lookup("enum")
				if !ok {
					return true
				}
				kind, of := "", x.Type
				if list, ok := of.(*ast.ArrayType); ok {
					of = list.Elt // each of a list
				}
				switch typ := of.(type) {
				case *ast.Ident:
					kind = folder + "." + typ.Name
				case *ast.SelectorExpr:
					kind = imports[typ.X.(*ast.Ident).Name] + "." + typ.Sel.Name
				}
				tags = append(tags, listed{files.Position(x.Pos()), kind, strings.Split(words, ",")})
			}
			return true
		})
	})
	checked := 0
	for _, l := range tags {
		want, enumerated := constants[l.kind]
		if !enumerated {
			t.Errorf("%s: the type %s has no constants", l.at, l.kind)
			continue
		}
		checked++
		got := slices.DeleteFunc(slices.Clone(l.words), func(w string) bool { return w == "" })
		want = slices.DeleteFunc(slices.Clone(want), func(w string) bool { return w == "" })
		slices.Sort(got)
		slices.Sort(want)
		if !slices.Equal(got, want) {
			t.Errorf("%s: the tag lists %v, %s has %v", l.at, got, l.kind, want)
		}
	}
	if checked < 40 {
		t.Errorf("only %d tags were held against constants", checked)
	}
}

func eachFile(t *testing.T, files *token.FileSet, look func(folder string, f *ast.File)) {
	t.Helper()
	for _, root := range []string{"api", "app", "bench", "core", "store"} {
		err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			f, err := parser.ParseFile(files, path, nil, parser.SkipObjectResolution)
			if err != nil {
				return err
			}
			look(filepath.ToSlash(filepath.Dir(path)), f)
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
}
