using System.Globalization;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Household;
using Grate.Core.Visits;

namespace Grate.Server.Features.Household;

/// <summary>A language of the household's page: one file of texts by their keys.</summary>
/// <param name="code">Its code, the name of its file: "de".</param>
/// <param name="texts">The texts.</param>
/// <param name="otherwise">Where a text is missing; null for the first language.</param>
public sealed class Language(string code, IReadOnlyDictionary<string, string> texts, Language? otherwise)
{
    /// <summary>Its code.</summary>
    public string Code => code;

    /// <summary>Keys that its file holds.</summary>
    public IEnumerable<string> Keys => texts.Keys;

    /// <summary>A text; its key where no language has it.</summary>
    public string this[string key] => texts.TryGetValue(key, out var text) ? text : otherwise?[key] ?? key;

    /// <summary>A day: 14 September 2027.</summary>
    public string Day(DateOnly day) => string.Create(CultureInfo.InvariantCulture, $"{day.Day} {this[$"month.{day.Month}"]} {day.Year}");

    /// <summary>What is told to who writes of an emergency: what to do now, and then that the office sees it.</summary>
    public string Emergency(EmergencyKind kind) =>
        string.Join(' ', [.. Core.Visits.Emergency.Of(kind).Steps.Select((_, i) => this[$"card.{Word.Of(kind)}.{i + 1}"]), this["log.urgent"]]);

    /// <summary>A line of a sheet.</summary>
    public string Line(SheetLine line)
    {
        var text = this[line.Key];
        for (var i = 0; i < line.Args.Count; i++)
            text = text.Replace($"{{{i}}}", line.Args[i], StringComparison.Ordinal);
        return text.Replace("{day}", line.Day is { } day ? Day(day) : "", StringComparison.Ordinal).Replace("{part}", line.Part is { } part ? this[$"part.{part}"] : "", StringComparison.Ordinal);
    }
}

/// <summary>The languages that are there: a file each, in the folder Languages beside the server; another one is another file.</summary>
public sealed class Languages
{
    /// <summary>The first one, complete.</summary>
    public const string First = "en";

    private readonly Dictionary<string, Language> _all;

    /// <summary>Reads every file of a folder.</summary>
    /// <param name="folder">The folder.</param>
    public Languages(string folder)
    {
        static Dictionary<string, string> Read(string file) => JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(file))!;
        var first = new Language(First, Read(Path.Combine(folder, $"{First}.json")), null);
        _all = Directory.EnumerateFiles(folder, "*.json").Select(f => (Code: Path.GetFileNameWithoutExtension(f), File: f))
            .Select(f => f.Code == First ? first : new Language(f.Code, Read(f.File), first)).ToDictionary(l => l.Code);
    }

    /// <summary>All of them, by their codes.</summary>
    public IEnumerable<Language> All => _all.Values.OrderBy(l => l.Code, StringComparer.Ordinal);

    /// <summary>Words that name an emergency, in every language.</summary>
    public IEnumerable<string> EmergencyWords(EmergencyKind kind) =>
        _all.Values.SelectMany(l => l[$"words.{Word.Of(kind)}"].Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries));

    /// <summary>Refuses a code that is no language's; none is.</summary>
    public void Check(string field, string? code, EntryErrors errors)
    {
        if (!string.IsNullOrEmpty(code) && !_all.ContainsKey(code))
            errors.Add(field, Word.OneOf("Language", code, All.Select(l => l.Code)));
    }

    /// <summary>The one that is asked for, else the browser's, else the first.</summary>
    /// <param name="asked">Code of the address, or null.</param>
    /// <param name="accepted">The browser's Accept-Language.</param>
    public Language Of(string? asked, string accepted) => new[] { asked }.Concat(accepted.Split(',').Select(a => a.Split(';')[0].Trim().Split('-')[0]))
        .Select(code => _all.GetValueOrDefault(code ?? "")).FirstOrDefault(l => l is not null) ?? _all[First];
}
