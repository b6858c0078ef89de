using System.Text;
using CsvHelper;
using Grate.Core;

namespace Grate.Server;

/// <summary>Lists for spreadsheets: RFC 4180, out as UTF-8, in as spreadsheets write them.</summary>
internal static class Csv
{
    /// <summary>Media type of a list.</summary>
    public const string Type = "text/csv; charset=utf-8";

    private static readonly Encoding _strict = new UTF8Encoding(false, true);

    /// <summary>Writes a list; a name that begins like a formula must not become one in a spreadsheet.</summary>
    public static CsvWriter To(Stream stream) => CsvWriter.Create(stream, new CsvWriterOptions { Injection = CsvInjection.Escape, NewLine = "\r\n" }, leaveOpen: true);

    /// <summary>Reads a list: its first line, and the rows below it that hold anything; refusals by the field "list".</summary>
    public static (IReadOnlyList<string> Header, List<(int Line, IReadOnlyList<string> Cells)> Rows) Read(byte[] bytes, int mostColumns, int mostRows, EntryErrors errors)
    {
        var rows = new List<(int, IReadOnlyList<string>)>();
        if (bytes.Length == 0)
        {
            errors.Add("list", "The list is empty.");
            return ([], rows);
        }
        try
        {
            using var text = new StringReader(TextOf(bytes));
            using var csv = CsvReader.Create(text, new CsvReaderOptions { TrackLineNumbers = true, MalformedData = CsvMalformedDataHandling.Throw, MaxRecordSize = 64 * 1024 });
            csv.ReadHeader();
            string[] header = [.. csv.Headers];
            if (header.Length == 0 || header.Length > mostColumns)
                errors.Add("list", $"A list has 1 to {mostColumns} columns, named in its first line; {header.Length} were found.");
            while (!errors.Any && csv.Read())
            {
                if (rows.Count == mostRows)
                    errors.Add("list", $"A list has at most {mostRows} rows.");
                string[] cells = [.. Enumerable.Range(0, csv.FieldCount).Select(i => csv.GetString(i))];
                if (cells.Any(c => c.Trim().Length > 0))
                    rows.Add(((int)csv.LineNumber, cells));
            }
            if (!errors.Any && rows.Count == 0)
                errors.Add("list", "The list has a first line and nothing below it.");
            return (header, rows);
        }
        catch (CsvFormatException fault)
        {
            errors.Add("list", $"This is no list of cells: {fault.Message}");
            return ([], rows);
        }
    }

    // UTF-8 where it is that, with or without the mark that spreadsheets put before it; else Windows-1252.
    private static string TextOf(byte[] bytes)
    {
        try
        {
            return _strict.GetString(bytes).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(bytes);
        }
    }
}
