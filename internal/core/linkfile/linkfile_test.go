package linkfile_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"pgregory.net/rapid"

	"jundle/internal/core/linkfile"
	"jundle/internal/fuzzing"
)

func TestTheEncodingOfAFileIsFoundOut(t *testing.T) {
	const text = "título;adresse\nTöpfe, Glasur – 5 €;https://töpfe.example/\n"
	encoded := func(with interface{ Bytes([]byte) ([]byte, error) }) []byte {
		data, err := with.Bytes([]byte(text))
		require.NoError(t, err)
		return data
	}
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"UTF-8":                 {[]byte(text), "utf-8"},
		"UTF-8 with a mark":     {append([]byte("\ufeff"), text...), "utf-8"},
		"UTF-16 LE with a mark": {encoded(unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder()), "utf-16le"},
		"UTF-16 BE with a mark": {encoded(unicode.UTF16(unicode.BigEndian, unicode.UseBOM).NewEncoder()), "utf-16be"},
		"UTF-16 LE":             {encoded(unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM).NewEncoder()), "utf-16le"},
		"UTF-16 BE":             {encoded(unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder()), "utf-16be"},
		"Windows-1252":          {encoded(charmap.Windows1252.NewEncoder()), "windows-1252"},
	} {
		got, encoding, err := linkfile.Decode(c.data)
		require.NoError(t, err, name)
		assert.Equal(t, text, got, name)
		assert.Equal(t, c.want, encoding, name)
	}
	_, _, err := linkfile.Decode([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\xff\xfe"))
	require.ErrorIs(t, err, linkfile.ErrNoText)
	lines, _, _ := linkfile.Decode([]byte("a\r\nb\rc"))
	assert.Equal(t, "a\nb\nc", lines)
}

// The examples of RFC 4180, section 2, by their numbers there.
func TestTheExamplesOfTheStandardAreRead(t *testing.T) {
	for number, c := range map[string]struct {
		text string
		want [][]string
	}{
		"1": {"aaa,bbb,ccc\nzzz,yyy,xxx\n", [][]string{{"aaa", "bbb", "ccc"}, {"zzz", "yyy", "xxx"}}},
		"2": {"aaa,bbb,ccc\nzzz,yyy,xxx", [][]string{{"aaa", "bbb", "ccc"}, {"zzz", "yyy", "xxx"}}},
		"5": {`"aaa","bbb","ccc"` + "\nzzz,yyy,xxx", [][]string{{"aaa", "bbb", "ccc"}, {"zzz", "yyy", "xxx"}}},
		"6": {"\"aaa\",\"b\nbb\",\"ccc\"\nzzz,yyy,xxx", [][]string{{"aaa", "b\nbb", "ccc"}, {"zzz", "yyy", "xxx"}}},
		"7": {`"aaa","b""bb","ccc"`, [][]string{{"aaa", `b"bb`, "ccc"}}},
	} {
		table, err := linkfile.ReadTable(c.text)
		require.NoError(t, err, number)
		var got [][]string
		for _, row := range table.Rows {
			got = append(got, row.Cells)
		}
		assert.Equal(t, c.want, got, number)
	}
}

func TestDelimiterAndQuotationMarkAreFoundOut(t *testing.T) {
	for text, want := range map[string]string{
		"Sale,https://kiln.example/a\nDates,https://kiln.example/b":                    `,"`,
		"Sale;https://kiln.example/a,b\nDates;https://kiln.example/c":                  `;"`,
		"Sale\thttps://kiln.example/a\nDates, all\thttps://kiln.example/b":             "\t\"",
		"Sale|https://kiln.example/a\nDates|https://kiln.example/b":                    `|"`,
		"'Sale; now','https://kiln.example/a'\n'It''s on','https://kiln.example/b;c'":  `,'`,
		"https://kiln.example/a,b\nhttps://kiln.example/c\nhttps://kiln.example/d":     "\x00\"",
		"\"Sale, now\";\"https://kiln.example/a\"\n\"Dates\";\"https://kiln.example\"": `;"`,
	} {
		table, err := linkfile.ReadTable(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, string(table.Delimiter)+string(table.Quote), text)
	}
	table, err := linkfile.ReadTable("'Sale; now','https://kiln.example/a'\n'It''s on','https://kiln.example/b;c'")
	require.NoError(t, err)
	assert.Equal(t, []string{"It's on", "https://kiln.example/b;c"}, table.Rows[1].Cells)
}

func TestAMalformedTableSaysWhere(t *testing.T) {
	for text, want := range map[string]string{
		"a,b\nc,\"d\ne,f\n":   "Line 2, column 3: the quotation mark that opens here is not closed.",
		"a,b\nc,\"d\" e\nf,g": "Line 2, column 7: a value goes on behind the quotation mark that closes it.",
		"a,b\nü,ö\n\"x\"y,z":  "Line 3, column 4: a value goes on behind the quotation mark that closes it.",
		"a" + strings.Repeat(",a", 100) + "\nb" + strings.Repeat(",b", 100): "Line 1, column 201: there are more than 100 columns.",
	} {
		_, err := linkfile.ReadTable(text)
		assert.EqualError(t, err, want, text)
	}
	_, err := linkfile.ReadTable(strings.Repeat("a,b\n", linkfile.MaxRows+2))
	require.ErrorIs(t, err, linkfile.ErrTooMany)
	_, err = linkfile.ReadTable(strings.Repeat("a,b\n", linkfile.MaxRows+1))
	require.NoError(t, err)
}

func TestColumnsAreKnownByTheirNamesOrByWhatIsInThem(t *testing.T) {
	const none = linkfile.None
	for text, want := range map[string]linkfile.Mapping{
		"Name,URL,Tags\nSale,https://kiln.example/a,shop":            {Address: 1, Title: 0, Note: none, Labels: 2, Head: true},
		"Description;Adresse;Titel\nalt;https://kiln.example/a;Sale": {Address: 1, Title: 2, Note: 0, Labels: none, Head: true},
		"Sale,kiln.example/a\nDates,kiln.example/b":                  {Address: 1, Title: 0, Note: none, Labels: none},
		"clicks,what,where\n12,Sale,https://kiln.example/a":          {Address: 2, Title: 0, Note: none, Labels: none, Head: true},
		"https://kiln.example/a\nhttps://kiln.example/b":             {Address: 0, Title: none, Note: none, Labels: none},
		"just words\nand more":                                       {Address: none, Title: none, Note: none, Labels: none, Head: true},
	} {
		table, err := linkfile.ReadTable(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, table.Guess(), text)
	}
}

func TestRowsBecomeLinksAndSayWhatIsWrongWithThem(t *testing.T) {
	table, err := linkfile.ReadTable("title,address,labels,note\nSale,kiln.example/a,shop; 2026,\"two\nlines\"\n" +
		"Bad,javascript:alert(1),,\nTwice,https://kiln.example/a,,\n,https://kiln.example/b,,\nShort\n'=cmd,https://kiln.example/c,,")
	require.NoError(t, err)
	entries := table.Links(table.Guess())
	require.Len(t, entries, 6)
	assert.Equal(t, "https://kiln.example/a", entries[0].Address)
	assert.Equal(t, []string{"shop", "2026"}, entries[0].Labels)
	assert.Equal(t, "two\nlines", entries[0].Note)
	assert.Equal(t, 2, entries[0].Line)
	assert.NotEmpty(t, entries[1].Wrong)
	assert.Equal(t, 4, entries[1].Line, "a value may have gone over two lines")
	assert.Contains(t, entries[2].Wrong, "before")
	assert.Equal(t, "kiln.example", entries[3].Title, "named after its host")
	assert.NotEmpty(t, entries[4].Wrong, "a row that is too short has no address")
	assert.Equal(t, "=cmd", entries[5].Title, "what was defused for a spreadsheet is itself again")
	assert.False(t, linkfile.Mapping{Address: 9}.Fits(table))
	assert.False(t, linkfile.Mapping{Address: linkfile.None}.Fits(table))
}

func TestWhatTheGeneralLibraryWritesIsReadAsItWas(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cell := rapid.StringMatching(`[a-zé,;"|' \n]{0,12}`).Filter(func(s string) bool { return s == strings.TrimSpace(s) })
		width := rapid.IntRange(2, 5).Draw(t, "width")
		rows := rapid.SliceOfN(rapid.SliceOfN(cell, width, width), 1, 8).Draw(t, "rows")
		var out bytes.Buffer
		written := csv.NewWriter(&out)
		require.NoError(t, written.WriteAll(rows))
		standard, err := csv.NewReader(strings.NewReader(out.String())).ReadAll()
		require.NoError(t, err)
		read, err := linkfile.Read(out.String(), ',', '"')
		require.NoError(t, err)
		var got [][]string
		for _, row := range read {
			got = append(got, row.Cells)
		}
		assert.Equal(t, standard, got)
	})
}

// The shape is that which browsers write; there is no standard but their common practice.
func TestBookmarksAreReadWithTheirFoldersAndWrittenSo(t *testing.T) {
	const file = `<!DOCTYPE NETSCAPE-Bookmark-file-1>
<!-- This is an automatically generated file. -->
<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=UTF-8">
<TITLE>Bookmarks</TITLE>
<H1>Bookmarks</H1>
<DL><p>
    <DT><A HREF="https://kiln.example/" ADD_DATE="1700000000" ICON="data:image/png;base64,AAAA">The kiln &amp; more</A>
    <DT><H3 ADD_DATE="1700000000">Glazes</H3>
    <DD>What the folder is
    <DL><p>
        <DT><A HREF="https://glaze.example/?a=1&amp;b=2">Celadon</A>
        <DD>Ash, and patience
        <DT><A HREF="javascript:alert(1)">A script</A>
    </DL><p>
    <DT><A HREF="mailto:ilse@quarrow.example">Write</A>
</DL><p>
`
	require.True(t, linkfile.IsBookmarks("\n"+file))
	require.False(t, linkfile.IsBookmarks("title,address"))
	entries := linkfile.ReadBookmarks(file, 100)
	require.Len(t, entries, 4)
	assert.Equal(t, "The kiln & more", entries[0].Title)
	assert.Equal(t, 7, entries[0].Line)
	assert.Empty(t, entries[0].Labels)
	assert.Equal(t, "https://glaze.example/?a=1&b=2", entries[1].Address)
	assert.Equal(t, []string{"Glazes"}, entries[1].Labels)
	assert.Equal(t, "Ash, and patience", entries[1].Note)
	assert.NotEmpty(t, entries[2].Wrong)
	assert.Equal(t, "mailto:ilse@quarrow.example", entries[3].Address)
	assert.Empty(t, entries[3].Labels)
	assert.Len(t, linkfile.ReadBookmarks(file, 2), 2)

	var out bytes.Buffer
	require.NoError(
		t,
		linkfile.WriteBookmarks(&out, "Quarrow <Clay>", []linkfile.Folder{{Name: "Glazes & ash", Links: []linkfile.Bookmark{
			{Address: "https://glaze.example/?a=1&b=2", Title: `"Celadon" <b>`, Note: "Ash", Added: time.Unix(1700000000, 0)},
		}}}),
	)
	again := linkfile.ReadBookmarks(out.String(), 100)
	require.Len(t, again, 1)
	assert.Equal(t, `"Celadon" <b>`, again[0].Title)
	assert.Equal(t, "https://glaze.example/?a=1&b=2", again[0].Address)
	assert.Equal(t, []string{"Glazes & ash"}, again[0].Labels)
}

func FuzzAnyFileIsReadOrRefused(f *testing.F) {
	for _, text := range []string{"a,b\n\"c", "\xff\xfea\x00", "<!DOCTYPE NETSCAPE-Bookmark-file-1><DL><DT><A HREF=x>y<DD>z", "a;'b'';c'\n"} {
		f.Add([]byte(text))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() {
			text, _, err := linkfile.Decode(data)
			if err != nil {
				return
			}
			linkfile.ReadBookmarks(text, 100)
			table, err := linkfile.ReadTable(text)
			if err != nil {
				return
			}
			if mapping := table.Guess(); mapping.Fits(table) {
				table.Links(mapping)
			}
		})
	})
}
