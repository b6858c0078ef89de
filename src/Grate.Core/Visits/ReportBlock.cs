namespace Grate.Core.Visits;

/// <summary>A table of the report; every cell is a sentence, numbers in the reader's units.</summary>
/// <param name="Title">Its heading.</param>
/// <param name="Columns">Heads of the columns.</param>
/// <param name="Rows">Rows of as many cells.</param>
/// <param name="Note">A line below it, or none.</param>
public sealed record ReportBlock(string Title, IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<Sentence>> Rows, string? Note = null);
