package firmware

import (
	"bytes"
	"strings"

	"vividperch/core/quad"
)

// EditList gives a settings list in which some settings hold other values: only the lines of those change, and only where their values stand.
// Order, case, blanks, comments, line ends and everything that is not understood stay as they are. What the list does not name is added
// after its last setting. A list as a table is a Fault; so is one that cannot be read, and a value that would not be read back.
func EditList(text []byte, set map[string]string) ([]byte, error) {
	list, err := ReadList(text)
	if err != nil {
		return nil, err
	}
	if isTable(bytes.TrimPrefix(text, mark)) {
		return nil, quad.Faultf("a-table", "", "is a table; only lists of a setting a line are written back")
	}
	for name, value := range set {
		if strings.ContainsAny(name+value, "#\r\n") || strings.Contains(name, "=") || strings.TrimSpace(value) != value || strings.TrimSpace(name) != name || name == "" {
			return nil, quad.Faultf("not-a-value", name, "%q cannot stand in a list", quad.Clip(value, 40))
		}
	}
	lines := bytes.SplitAfter(text, []byte("\n"))
	left := map[string]string{}
	for name, value := range set {
		left[name] = value
	}
	last := -1
	for _, s := range list.Settings {
		last = s.Line - 1
		value, wanted := set[s.Name]
		if !wanted {
			continue
		}
		delete(left, s.Name) // named twice, the later line wins: both are set
		if value != s.Value {
			lines[last] = withValue(lines[last], value)
		}
	}
	out := bytes.Join(lines, nil)
	if len(left) > 0 {
		out = added(lines, last, left)
	}
	return out, readsBack(out, set)
}

// readsBack says whether a list that was written holds what was set.
func readsBack(text []byte, set map[string]string) error {
	list, err := ReadList(text)
	if err != nil {
		return err
	}
	for _, s := range list.Settings {
		if want, wanted := set[s.Name]; wanted && s.Value != want {
			return quad.Faultf("not-a-value", s.Name, "%q cannot stand in a list", quad.Clip(want, 40))
		}
	}
	return nil
}

// withValue puts another value on a line: behind its equals sign and the blanks there, before the blanks and the comment at its end.
func withValue(line []byte, value string) []byte {
	body, _, _ := bytes.Cut(line, []byte("#"))
	tail := line[len(body):]
	i := bytes.IndexByte(body, '=') + 1
	was := body[i:]
	begin := i + len(was) - len(bytes.TrimLeft(was, " \t"))
	end := len(bytes.TrimRight(body, " \t\r\n"))
	if end < begin { // there was no value
		end, begin = i, i
	}
	var out bytes.Buffer
	out.Write(body[:begin])
	out.WriteString(value)
	out.Write(body[end:])
	out.Write(tail)
	return out.Bytes()
}

// added settings by name, behind the line of the last one, in the line ends of the list.
func added(lines [][]byte, last int, left map[string]string) []byte {
	end := "\n"
	if len(lines) > 0 && bytes.HasSuffix(lines[0], []byte("\r\n")) {
		end = "\r\n"
	}
	var out bytes.Buffer
	put := func() {
		for _, name := range quad.SortedKeys(left) {
			out.WriteString(name + " = " + left[name] + end)
		}
	}
	if last < 0 {
		if rest, marked := bytes.CutPrefix(lines[0], mark); marked {
			out.Write(mark)
			lines = append([][]byte{rest}, lines[1:]...)
		}
		put()
	}
	for i, line := range lines {
		out.Write(line)
		if i == last {
			if !bytes.HasSuffix(line, []byte("\n")) {
				out.WriteString(end)
			}
			put()
		}
	}
	return out.Bytes()
}
