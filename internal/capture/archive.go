package capture

import (
	"archive/tar"
	"archive/zip"
	"errors"
	"fmt"
	"io"
	"os"
	"path"
	"slices"
	"strings"
	"vetta/internal/traffic"
)

// Bounds of archives.
const (
	deepest     = 2       // archives and compressed files inside each other
	mostMembers = 100_000 // of one archive
	mostIndex   = 8 << 20 // bytes of the directory of a zip file, which is held in memory
)

// member is a file in an archive.
type member struct {
	name string // as messages name it, behind that of the archive
	raw  string // as the archive has it
	open func() (io.ReadCloser, error)
	size int64
}

// archive hands on the members of an archive that are captures, by name.
func (r *Reader) archive(f *File, members []member, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	slices.SortStableFunc(members, func(a, b member) int { return traffic.Compare(a.name, b.name) })
	names := make([]string, len(members))
	by := map[string]*member{}
	for i := range members {
		names[i] = members[i].name
		by[names[i]] = &members[i]
	}
	beside := Besides(names)
	f.members(len(names))
	for i := range members {
		m := &members[i]
		inner := r.member(f, m, i+1, beside, problem)
		if inner == nil {
			continue
		}
		for _, name := range beside.Of(m.name) {
			if text, err := readMember(by[name]); err == nil {
				inner.tell(name, text)
			}
		}
		in, err := m.open()
		if err != nil {
			problem(inner.whole(reasonOf(err)))
			continue
		}
		err = r.content(inner, in, m.size, depth+1, each, problem)
		in.Close()
		if err != nil {
			return err
		}
	}
	return nil
}

// member is a member as a file that is read; nil for one that is not to be: hidden ones, and those that
// tell of others.
func (r *Reader) member(f *File, m *member, place int, beside Beside, problem func(Problem)) *File {
	if beside.tells[m.name] || strings.HasPrefix(path.Base(m.name), ".") || strings.HasPrefix(m.name, "__MACOSX/") {
		return nil
	}
	inner := f.inside(m.name)
	inner.Member, inner.Unsure = place, !IsCapture(m.name)
	if f.Member > 0 { // in an archive inside another one
		*f.behind++
		inner.Member = *f.behind
	}
	if r.Members != nil {
		r.Members(inner)
	}
	if m.raw != m.name {
		problem(Oddity(inner.Path, 0, 0, 0, "its name in the archive leads out of it, and was made to stay inside"))
	}
	return inner
}

// members notes how many members an archive has: those of an archive in it count on behind them.
func (f *File) members(n int) {
	if f.behind == nil {
		f.behind = &n
	}
}

func readMember(m *member) ([]byte, error) {
	in, err := m.open()
	if err != nil {
		return nil, err
	}
	defer in.Close()
	return io.ReadAll(io.LimitReader(in, mostBeside))
}

// inside is the name of a member without what would lead out of the archive.
func inside(name string) string {
	clean := path.Clean("/" + strings.ReplaceAll(name, "\\", "/"))
	if clean = strings.TrimPrefix(clean, "/"); clean == "" {
		return "unnamed"
	}
	return clean
}

// leadsOut says whether the name of a member leads out of its archive.
func leadsOut(name string) bool {
	name = strings.ReplaceAll(name, "\\", "/")
	return strings.HasPrefix(name, "/") || slices.Contains(strings.Split(name, "/"), "..")
}

// named is a member by its name in the archive.
func named(raw string) member {
	m := member{name: inside(raw), raw: raw}
	if !leadsOut(raw) {
		m.raw = m.name
	}
	return m
}

// zip hands on the members of a zip file.
func (r *Reader) zip(f *File, at io.ReaderAt, size int64, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	index := &indexed{at: at, left: mostIndex}
	z, err := zip.NewReader(index, size)
	if err != nil {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	index.left = -1
	var members []member
	for _, file := range z.File {
		if file.FileInfo().Mode().IsRegular() {
			m := named(file.Name)
			m.size = int64(file.UncompressedSize64)
			m.open = func() (io.ReadCloser, error) {
				if file.Flags&1 != 0 {
					return nil, errors.New("it is encrypted: unpack it with its password")
				}
				in, err := file.Open()
				if err != nil {
					return nil, err
				}
				from := &counted{read: int64(file.CompressedSize64)}
				return struct {
					io.Reader
					io.Closer
				}{&bounded{Reader: in, from: from}, in}, nil
			}
			members = append(members, m)
		}
	}
	return r.archive(f, members, depth, each, problem)
}

// indexed bounds how much of a zip file is read for its directory, which is held in memory.
type indexed struct {
	at   io.ReaderAt
	left int64 // -1 for no bound
}

func (x *indexed) ReadAt(buf []byte, offset int64) (int, error) {
	if x.left >= 0 {
		if x.left -= int64(len(buf)); x.left < 0 {
			x.left = 0
			return 0, &boundError{fmt.Sprintf("its directory is larger than %d MB, which is some 80,000 files: unpack it", mostIndex>>20)}
		}
	}
	return x.at.ReadAt(buf, offset)
}

// tar hands on the members of a tar file. It is gone over twice: for the names, by which members are
// put in order and told apart from what stands beside them, and then for what they hold.
func (r *Reader) tar(f *File, again func() (io.ReadCloser, error), depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	names, err := tarNames(again)
	if err != nil {
		problem(f.whole(reasonOf(err)))
		if len(names) == 0 {
			return nil
		}
	}
	in, err := again()
	if err != nil {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	defer in.Close()
	order := slices.SortedFunc(slices.Values(names), traffic.Compare)
	beside := Besides(names)
	f.members(len(names))
	texts, err := tarTexts(again, beside)
	if err != nil {
		problem(f.whole(reasonOf(err)))
	}
	t := tar.NewReader(in)
	for range names {
		h, err := t.Next()
		for err == nil && h.Typeflag != tar.TypeReg {
			h, err = t.Next()
		}
		if err != nil {
			return nil // it was told above
		}
		m := named(h.Name)
		place, _ := slices.BinarySearchFunc(order, m.name, traffic.Compare)
		inner := r.member(f, &m, place+1, beside, problem)
		if inner == nil {
			continue
		}
		for _, name := range beside.Of(m.name) {
			inner.tell(name, texts[name])
		}
		if err := r.content(inner, t, h.Size, max(depth, 1), each, problem); err != nil {
			return err
		}
	}
	return nil
}

// tarNames are the names of the members of a tar file.
func tarNames(again func() (io.ReadCloser, error)) (names []string, err error) {
	err = overTar(again, func(name string, _ *tar.Reader) error {
		if names = append(names, name); len(names) > mostMembers {
			return &boundError{fmt.Sprintf("it has more than %d members; those behind are passed over: unpack it", mostMembers)}
		}
		return nil
	})
	return names, err
}

// tarTexts are the members of a tar file that tell how others were sent, by name.
func tarTexts(again func() (io.ReadCloser, error), beside Beside) (texts map[string][]byte, err error) {
	texts = map[string][]byte{}
	if len(beside.tells) == 0 {
		return texts, nil
	}
	return texts, overTar(again, func(name string, t *tar.Reader) error {
		if !beside.tells[name] {
			return nil
		}
		text, err := io.ReadAll(io.LimitReader(t, mostBeside))
		texts[name] = text
		return err
	})
}

// overTar calls visit for the regular members of a tar file.
func overTar(again func() (io.ReadCloser, error), visit func(name string, t *tar.Reader) error) error {
	in, err := again()
	if err != nil {
		return err
	}
	defer in.Close()
	t := tar.NewReader(in)
	for {
		h, err := t.Next()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		if h.Typeflag == tar.TypeReg {
			if err := visit(inside(h.Name), t); err != nil {
				return err
			}
		}
	}
}

// spool copies a stream to a temporary file, for what must be read from more than one place. done
// removes it.
func spool(in io.Reader) (file *os.File, size int64, done func(), err error) {
	file, err = os.CreateTemp("", "vetta-*")
	if err != nil {
		return nil, 0, nil, err
	}
	done = func() {
		file.Close()
		os.Remove(file.Name())
	}
	if size, err = io.Copy(file, io.LimitReader(in, mostSpool+1)); err == nil && size > mostSpool {
		err = &boundError{fmt.Sprintf("it is larger than %d GB: unpack it", mostSpool>>30)}
	}
	if err != nil {
		done()
		return nil, 0, nil, err
	}
	return file, size, done, nil
}

// mostSpool is how large an archive may be that lies inside another file, or comes from standard input.
const mostSpool = 4 << 30
