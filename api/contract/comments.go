package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"log"
	"os"
	"path/filepath"
	"reflect"
	"strings"
)

// comments are what the comments of packages say of their types and fields, by "Type" and
// "Type.Field". They are read once a package.
type comments map[string]map[string]string

// root is the folder of the module, from where the command runs.
const root = ".."

func (c comments) ofType(t reflect.Type) string { return c.of(t.PkgPath())[t.Name()] }

func (c comments) ofField(t reflect.Type, field string) string {
	return c.of(t.PkgPath())[t.Name()+"."+field]
}

func (c comments) of(pkg string) map[string]string {
	if known, ok := c[pkg]; ok {
		return known
	}
	c[pkg] = map[string]string{}
	dir := filepath.Join(root, strings.TrimPrefix(pkg, "arvelt/"))
	files, err := os.ReadDir(dir)
	if err != nil {
		log.Fatal("contract: ", err)
	}
	for _, f := range files {
		if !strings.HasSuffix(f.Name(), ".go") || strings.HasSuffix(f.Name(), "_test.go") {
			continue
		}
		file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(dir, f.Name()), nil, parser.ParseComments)
		if err != nil {
			log.Fatal("contract: ", err)
		}
		for _, d := range file.Decls {
			if g, ok := d.(*ast.GenDecl); ok && g.Tok == token.TYPE {
				for _, spec := range g.Specs {
					c.read(c[pkg], g, spec.(*ast.TypeSpec))
				}
			}
		}
	}
	return c[pkg]
}

func (c comments) read(into map[string]string, g *ast.GenDecl, spec *ast.TypeSpec) {
	doc := spec.Doc
	if doc == nil {
		doc = g.Doc
	}
	into[spec.Name.Name] = text(doc)
	s, ok := spec.Type.(*ast.StructType)
	if !ok {
		return
	}
	for _, f := range s.Fields.List {
		said := join(text(f.Doc), text(f.Comment))
		for _, name := range f.Names {
			into[spec.Name.Name+"."+name.Name] = said
		}
	}
}

func text(g *ast.CommentGroup) string {
	if g == nil {
		return ""
	}
	return strings.Join(strings.Fields(g.Text()), " ")
}
