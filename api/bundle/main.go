// Command bundle makes openapi.yaml of base.yaml and one file a station: its
// paths, tagged with its name, and the schemas that only it uses.
package main

import (
	"bytes"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"go.yaml.in/yaml/v3"
)

const note = "# Generated from base.yaml and stations/: change those, then run go generate ./api\n"

func main() {
	log.SetFlags(0)
	out := "openapi.yaml"
	if len(os.Args) > 1 {
		out = os.Args[1]
	}
	text, err := bundle("base.yaml", "stations")
	if err == nil {
		err = os.WriteFile(out, text, 0o644)
	}
	if err != nil {
		log.Fatal(err)
	}
}

// bundle merges the stations of a folder into the base.
func bundle(base, stations string) ([]byte, error) {
	whole, err := read(base)
	if err != nil {
		return nil, err
	}
	files, err := filepath.Glob(filepath.Join(stations, "*.yaml"))
	if err != nil {
		return nil, err
	}
	slices.Sort(files)
	paths := at(whole, "paths")
	schemas := at(at(whole, "components"), "schemas")
	for _, file := range files {
		part, err := read(file)
		if err != nil {
			return nil, err
		}
		tag(at(part, "paths"), strings.TrimSuffix(filepath.Base(file), ".yaml"))
		for into, from := range map[*yaml.Node]*yaml.Node{paths: at(part, "paths"), schemas: at(part, "schemas")} {
			if err := merge(into, from); err != nil {
				return nil, fmt.Errorf("%s: %w", file, err)
			}
		}
	}
	var text bytes.Buffer
	text.WriteString(note)
	e := yaml.NewEncoder(&text)
	e.SetIndent(2)
	err = e.Encode(whole)
	return text.Bytes(), err
}

func read(file string) (*yaml.Node, error) {
	text, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	var doc yaml.Node
	if err := yaml.Unmarshal(text, &doc); err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return doc.Content[0], nil
}

// at is the value of a key of a mapping; an empty mapping where there is none.
func at(node *yaml.Node, key string) *yaml.Node {
	for i := 0; i < len(node.Content); i += 2 {
		if node.Content[i].Value == key {
			return node.Content[i+1]
		}
	}
	return &yaml.Node{Kind: yaml.MappingNode}
}

func merge(into, from *yaml.Node) error {
	for i := 0; i < len(from.Content); i += 2 {
		key := from.Content[i].Value
		if len(at(into, key).Content) > 0 {
			return fmt.Errorf("%s is there already", key)
		}
		into.Content = append(into.Content, from.Content[i], from.Content[i+1])
	}
	return nil
}

// methods are the keys of a path that are calls.
var methods = []string{"get", "put", "post", "patch", "delete"}

// tag names the station of every call of some paths.
func tag(paths *yaml.Node, station string) {
	for i := 1; i < len(paths.Content); i += 2 {
		for j := 0; j < len(paths.Content[i].Content); j += 2 {
			if call := paths.Content[i].Content[j+1]; slices.Contains(methods, paths.Content[i].Content[j].Value) {
				name := &yaml.Node{Kind: yaml.ScalarNode, Value: "tags"}
				list := &yaml.Node{Kind: yaml.SequenceNode, Style: yaml.FlowStyle, Content: []*yaml.Node{{Kind: yaml.ScalarNode, Value: station}}}
				call.Content = append([]*yaml.Node{name, list}, call.Content...)
			}
		}
	}
}
