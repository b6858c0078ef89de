using CsvHelper;

namespace Grate.Server;

/// <summary>Lists for spreadsheets: RFC 4180, UTF-8.</summary>
internal static class Csv
{
    /// <summary>Media type of a list.</summary>
    public const string Type = "text/csv; charset=utf-8";

    /// <summary>Writes a list; a name that begins like a formula must not become one in a spreadsheet.</summary>
    public static CsvWriter To(Stream stream) => CsvWriter.Create(stream, new CsvWriterOptions { Injection = CsvInjection.Escape, NewLine = "\r\n" }, leaveOpen: true);
}
