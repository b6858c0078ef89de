using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Household;

/// <summary>A column of a list.</summary>
/// <param name="Header">Its name in the file.</param>
/// <param name="Field">What it holds; null where it is left out.</param>
public sealed record ListColumn(string Header, ListField? Field);

/// <summary>A row as it will be.</summary>
/// <param name="Line">Its line in the file.</param>
/// <param name="Name">The household.</param>
/// <param name="Address">Where.</param>
/// <param name="Stove">Its stove.</param>
/// <param name="Twin">Who is in the books already with its number or address; null where nobody is.</param>
/// <param name="Refused">What is wrong with it; null where nothing is.</param>
public sealed record ListRowSeen(int Line, string Name, string Address, string Stove, string? Twin, string? Refused);

/// <summary>A list as it will be brought in.</summary>
/// <param name="Columns">Its columns.</param>
/// <param name="Rows">How many rows there are.</param>
/// <param name="First">The first twenty.</param>
/// <param name="Refused">Rows that cannot be, at most 200.</param>
/// <param name="RefusedRows">How many there are.</param>
/// <param name="Doubles">Rows whose household is in the books already.</param>
public sealed record ListPreview(IReadOnlyList<ListColumn> Columns, int Rows, IReadOnlyList<ListRowSeen> First, IReadOnlyList<ListRowSeen> Refused, int RefusedRows, int Doubles);

/// <summary>How far an import is.</summary>
/// <param name="Id">The import.</param>
/// <param name="Doing">What it does: writing, reckoning, done, stopped or failed.</param>
/// <param name="Done">Stoves so far.</param>
/// <param name="Of">Of so many.</param>
/// <param name="Sentence">What became of it, where it did not go through.</param>
public sealed record ImportProgress(Guid Id, string Doing, int Done, int Of, string? Sentence = null);

/// <summary>Lists that were brought in, and the one that is being brought in.</summary>
/// <param name="Running">How far it is; null where none runs, or none ran since the server started.</param>
/// <param name="Lists">Those that were brought in.</param>
public sealed record ImportsAnswer(ImportProgress? Running, IReadOnlyList<ImportLine> Lists);

/// <summary>How a list is read.</summary>
public sealed record ListQuery
{
    /// <summary>Word of what each column holds, between commas; empty for one that is left out. Null proposes.</summary>
    [FromQuery]
    public string? Map { get; init; }

    /// <summary>Kind of stove where a row tells none.</summary>
    [FromQuery]
    public string? Kind { get; init; }

    /// <summary>Units of the sentences.</summary>
    [FromQuery]
    public string? Units { get; init; }
}

/// <summary>Lists of households in and out.</summary>
public static class ImportEndpoints
{
    private const long MostBytes = 12 * 1024 * 1024;
    private const int Shown = 20, RefusedShown = 200;
    private static readonly BodyLimit _limit = new(MostBytes, "A list is at most 12 MB.");

    /// <summary>Maps /api/imports and the list that goes out.</summary>
    public static void MapImports(this WebApplication app)
    {
        var imports = app.MapGroup("/api/imports").RequireAuthorization(Policies.Desk);
        imports.MapGet("", async (ImportStore store, ImportDesk desk) => TypedResults.Ok(new ImportsAnswer(desk.Running, await store.ListAsync())));
        imports.MapPost("/preview", PreviewAsync).WithMetadata(_limit).RequireRateLimiting(Policies.CalculationRate).TakesFile("text/csv").Produces<ListPreview>().ProducesValidationProblem().ProducesProblem(413);
        imports.MapPost("/{id:guid}", BringInAsync).WithMetadata(_limit).TakesFile("text/csv").Produces<ImportProgress>(202).ProducesValidationProblem().ProducesProblem(409).ProducesProblem(413);
        imports.MapPost("/{id:guid}/stop", (Guid id, ImportDesk desk) => desk.Stop(id) ? TypedResults.NoContent() : Faults.Missing("import that runs")).Produces(204).ProducesProblem(404);
        imports.MapPost("/{id:guid}/undo", UndoAsync).Produces(204).ProducesProblem(404).ProducesProblem(409);
        app.MapGet("/api/households.csv", (ImportStore store, FirmStore firms, TimeProvider clock) => ListAsync(store, firms, clock)).RequireAuthorization(Policies.Desk).Produces<string>(200, "text/csv");
    }

    private static async Task<IResult> PreviewAsync(HttpRequest request, [AsParameters] ListQuery query, ImportDesk desk)
    {
        var errors = new EntryErrors(Asked.UnitsOf(query.Units));
        if (await desk.ReadAsync(request.Body, query, errors) is not { } list)
            return Faults.Refused(errors);
        var refused = list.Rows.Where(r => r.Row.Refused is not null).ToList();
        return TypedResults.Ok(new ListPreview(list.Columns, list.Rows.Count, [.. list.Rows.Take(Shown).Select(Seen)], [.. refused.Take(RefusedShown).Select(Seen)], refused.Count, list.Rows.Count(r => r.Twin is not null)));
    }

    private static ListRowSeen Seen(ReadRow row)
    {
        var (household, stove) = (row.Row.Household, row.Row.Household.Stove!);
        return new(row.Row.Line, household.Name ?? "", string.Join(", ", new[] { household.Street, household.Place }.Where(t => !string.IsNullOrEmpty(t))),
            string.Join(", ", new[] { StoveKind.Find(stove.Kind)?.Name ?? stove.Kind, stove.Model, stove.Year is { } made ? $"{made}" : null, row.Row.LastSweep is { } day ? $"swept {day:yyyy-MM-dd}" : null }.Where(t => !string.IsNullOrEmpty(t))), row.Twin, row.Row.Refused);
    }

    private static async Task<IResult> BringInAsync(Guid id, HttpRequest request, [AsParameters] ListQuery query, [FromQuery] string? name, [FromQuery] string? doubles, [FromQuery] bool? leaveOut, ClaimsPrincipal user, ImportDesk desk)
    {
        var errors = new EntryErrors(Asked.UnitsOf(query.Units));
        errors.CheckId("id", id, "An import");
        errors.CheckText("name", name, "Name of the list", 200, needed: true);
        if (doubles is not (null or "skip" or "add"))
            errors.Add("doubles", "Households that are in the books already are left out (skip) or brought in once more (add).");
        if (errors.Any || await desk.ReadAsync(request.Body, query, errors) is not { } list)
            return Faults.Refused(errors);
        var refused = list.Rows.Count(r => r.Row.Refused is not null);
        if (refused > 0 && leaveOut != true)
            errors.Add("rows", refused == 1 ? "A row cannot be brought in: put it right, or leave it out." : $"{refused} rows cannot be brought in: put them right, or leave them out.");
        var wanted = list.Rows.Where(r => r.Row.Refused is null && (doubles == "add" || r.Twin is null)).ToList();
        if (!errors.Any && wanted.Count == 0)
            errors.Add("rows", "Nothing of this list is left to bring in.");
        if (errors.Any)
            return Faults.Refused(errors);
        return desk.Start(id, name!.Trim(), wanted, list.WhereIs, list.Today, user.PersonId()) is { } progress ? TypedResults.Accepted("/api/imports", progress)
            : TypedResults.Problem(statusCode: 409, title: "Another list is being brought in: wait until it is done, or stop it.");
    }

    private static async Task<IResult> UndoAsync(Guid id, ClaimsPrincipal user, ImportStore store, TimeProvider clock) => await store.UndoAsync(id, user.PersonId(), clock.GetUtcNow()) switch
    {
        null => Faults.Missing("list that was brought in"),
        false => TypedResults.Problem(statusCode: 409, title: "Something rests on this list already, a visit, a call or a correction: it stays."),
        _ => TypedResults.NoContent(),
    };

    private static async Task<IResult> ListAsync(ImportStore store, FirmStore firms, TimeProvider clock)
    {
        var firm = await firms.GetAsync();
        static string Plain(double number) => number.ToString(CultureInfo.InvariantCulture);
        return TypedResults.Stream(async stream =>
        {
            await using var csv = Csv.To(stream);
            await csv.WriteRecordAsync([.. Enum.GetValues<ListField>().Select(Word.Said)]);
            await foreach (var line in store.LinesAsync())
            {
                var swept = line.LastSweep is { } at ? firm.Day(at) : line.SweptTold;
                await csv.WriteRecordAsync([line.Name, line.Phone, line.Email, line.Note, line.Street, line.Place, Plain(line.Latitude), Plain(line.Longitude), Plain(line.AltitudeM), $"{line.Storeys}", line.Kind,
                    line.Combustor ? "yes" : "no", line.Model, line.Serial, $"{line.Year}", Plain(line.NominalKw), line.Room, $"{swept:yyyy-MM-dd}"]);
            }
        }, Csv.Type, $"households-{firm.Day(clock.GetUtcNow()):yyyy-MM-dd}.csv");
    }
}

/// <summary>A row with who may be the same.</summary>
/// <param name="Row">The row.</param>
/// <param name="Twin">Who has its number or address; null where nobody has.</param>
public sealed record ReadRow(ListRow Row, string? Twin);

/// <summary>A list as read.</summary>
/// <param name="Columns">Its columns.</param>
/// <param name="Rows">Its rows.</param>
/// <param name="WhereIs">Where places lie.</param>
/// <param name="Today">Today at the firm's place.</param>
public sealed record ReadList(IReadOnlyList<ListColumn> Columns, IReadOnlyList<ReadRow> Rows, Func<string, Whereabouts?> WhereIs, DateOnly Today);

/// <summary>Reads lists, and brings one in at a time; how far it is can be asked.</summary>
public sealed class ImportDesk(ImportStore store, FirmStore firms, DueKeeper due, TimeProvider clock, IHostApplicationLifetime life, ILogger<ImportDesk> log)
{
    private sealed record Run(Guid Id, CancellationTokenSource End);

    private const string Writing = "writing";
    private readonly Lock _gate = new();
    private Run? _run;
    private volatile ImportProgress? _progress;

    /// <summary>How far the newest import is; null where none ran since the server started.</summary>
    public ImportProgress? Running => _progress;

    /// <summary>Reads a list.</summary>
    /// <returns>The list, or null with sentences in <paramref name="errors"/>.</returns>
    public async Task<ReadList?> ReadAsync(Stream body, ListQuery query, EntryErrors errors)
    {
        using var bytes = new MemoryStream();
        await body.CopyToAsync(bytes);
        var kind = query.Kind ?? StoveKind.All[0].Code;
        if (StoveKind.Find(kind) is null)
            errors.Add("kind", Word.OneOf("Kind", kind, StoveKind.All.Select(k => k.Code)));
        var (header, rows) = Csv.Read(bytes.ToArray(), HouseholdList.MostColumns, HouseholdList.MostRows, errors);
        var fields = query.Map is null ? HouseholdList.Propose(header) : Fields(query.Map, header.Count, errors);
        // What is only proposed is shown without a name, too, so that its column can be told.
        if (query.Map is not null && !errors.Any && !fields.Contains(ListField.Name))
            errors.Add("map", "One column holds the name.");
        if (errors.Any)
            return null;
        var firm = await firms.GetAsync();
        var (places, today) = (await store.PlacesAsync(), firm.Day(clock.GetUtcNow()));
        Whereabouts? WhereIs(string place) => places.GetValueOrDefault(place.Trim().ToLowerInvariant()) ?? firm.Works.Home;
        var known = new HashSet<string>((await store.KnownAsync()).SelectMany(k => HouseholdList.Keys(Telephone.DigitsOf(k.Phone), k.Street, k.Place)));
        var system = Asked.UnitsOf(query.Units);
        var read = rows.Select(r => HouseholdList.Read(r.Line, r.Cells, fields, kind, WhereIs, today, system)).Select(r => new ReadRow(r, TwinOf(r.Household, known))).ToList();
        return new([.. header.Select((h, i) => new ListColumn(h, fields[i]))], read, WhereIs, today);
    }

    // In the books; several rows of one household in a list are its stoves.
    private static string? TwinOf(NewHousehold household, HashSet<string> known) =>
        HouseholdList.Keys(Telephone.DigitsOf(household.Phone ?? ""), household.Street ?? "", household.Place ?? "").Any(known.Contains) ? "in the books already, by number or address" : null;

    private static IReadOnlyList<ListField?> Fields(string map, int columns, EntryErrors errors)
    {
        var words = map.Split(',');
        if (words.Length != columns)
            errors.Add("map", $"The list has {columns} columns; {words.Length} were told.");
        foreach (var word in words.Where(w => w.Length > 0 && Word.Find<ListField>(w) is null).Take(3))
            errors.Add("map", Word.OneOf("Column", word, Word.All<ListField>()));
        var fields = words.Select(Word.Find<ListField>).ToList();
        foreach (var twice in fields.OfType<ListField>().GroupBy(f => f).Where(g => g.Count() > 1).Take(3))
            errors.Add("map", $"{Word.Said(twice.Key)} stands for two columns: one of them.");
        return fields;
    }

    /// <summary>Begins to bring a list in.</summary>
    /// <returns>How far it is; null where another one runs.</returns>
    public ImportProgress? Start(Guid id, string name, IReadOnlyList<ReadRow> rows, Func<string, Whereabouts?> whereIs, DateOnly today, Guid by)
    {
        Run run;
        ImportProgress progress;
        lock (_gate)
        {
            if (_run is { } other)
                return other.Id == id ? _progress : null;
            _run = run = new Run(id, CancellationTokenSource.CreateLinkedTokenSource(life.ApplicationStopping));
            _progress = progress = new ImportProgress(id, Writing, 0, rows.Count);
        }
        _ = Task.Run(() => RunAsync(run, name, rows, whereIs, today, by), CancellationToken.None);
        return progress;
    }

    /// <summary>Ends an import that runs; nothing of it is kept.</summary>
    public bool Stop(Guid id)
    {
        lock (_gate)
        {
            if (_run is not { } run || run.Id != id || _progress?.Doing != Writing)
                return false;
            run.End.Cancel();
            return true;
        }
    }

    private async Task RunAsync(Run run, string name, IReadOnlyList<ReadRow> rows, Func<string, Whereabouts?> whereIs, DateOnly today, Guid by)
    {
        var total = rows.Count;
        ImportProgress ended;
        var kept = false;
        try
        {
            var households = Households(rows, whereIs, today);
            await store.WriteAsync(run.Id, name, households, by, clock.GetUtcNow(), done => _progress = new(run.Id, Writing, done, total), run.End.Token);
            kept = true;
            await due.StovesAsync([.. households.SelectMany(h => h.Stoves).Select(s => s.Stove.Id)], today, done => _progress = new(run.Id, "reckoning", done, total));
            ended = new(run.Id, "done", total, total);
        }
        catch (OperationCanceledException)
        {
            ended = new(run.Id, "stopped", 0, total, "It was stopped: nothing of the list is kept.");
        }
        catch (Exception fault) when (kept)
        {
            log.LogError(fault, "What is due of the list {Name} was not computed", name);
            ended = new(run.Id, "done", total, total, "What is due is reckoned in the night.");
        }
        catch (Exception fault)
        {
            log.LogError(fault, "The list {Name} was not brought in", name);
            ended = new(run.Id, "failed", 0, total, Database.Away(fault) ? "The database did not answer: nothing of the list is kept. Bring it in again." : "It could not be written: nothing of the list is kept.");
        }
        // Whoever is told that it ended can begin the next.
        lock (_gate)
        {
            (_run, _progress) = (null, ended);
            run.End.Dispose();
        }
    }

    // Rows of one household at one address are its stoves.
    private static List<ListedHousehold> Households(IReadOnlyList<ReadRow> rows, Func<string, Whereabouts?> whereIs, DateOnly today)
    {
        var households = new List<ListedHousehold>();
        foreach (var own in rows.Select(r => r.Row).GroupBy(r => (r.Household.Name!.ToLowerInvariant(), (r.Household.Street ?? $"line {r.Line}").ToLowerInvariant(), (r.Household.Place ?? "").ToLowerInvariant())))
        {
            var (told, errors) = (own.First().Household, new EntryErrors());
            var customer = told.Customer(Guid.CreateVersion7(), errors);
            var (house, assumed) = told.House(Guid.CreateVersion7(), whereIs(told.Place ?? ""), errors)!.Value;
            households.Add(new(customer, house, assumed, [.. own.Select(row =>
            {
                var (stove, flue, taken) = row.Household.Stove!.In(Guid.CreateVersion7(), house, today, errors)!.Value;
                return new ListedStove(stove, row.Household.Stove.Serial ?? "", flue, taken, row.LastSweep);
            })]));
        }
        return households;
    }
}
