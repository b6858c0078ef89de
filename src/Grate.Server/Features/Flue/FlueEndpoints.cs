using System.Security.Claims;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Flue;

/// <summary>A flue to edit, with usual systems to start from.</summary>
/// <param name="House">Its house.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Outline">Its house as drawn.</param>
/// <param name="Flue">Its flue now.</param>
/// <param name="Typical">Usual systems fitted to this house.</param>
public sealed record FlueAnswer(House House, Stove Stove, HouseOutline Outline, FlueVersion Flue, IReadOnlyList<TypicalFlue> Typical);

/// <summary>A flue on the drawing board.</summary>
/// <param name="StoveXM">The stove's axis, m from the left wall.</param>
/// <param name="Flue">The chain.</param>
/// <param name="Obstacles">What stands around, at most 20.</param>
/// <param name="Level">The fire to reckon with; default normal.</param>
/// <param name="OutdoorC">Outdoors, °C; default this month's mean.</param>
public sealed record FlueTrial(double StoveXM, FlueEntry Flue, IReadOnlyList<Obstacle> Obstacles, string? Level = null, double? OutdoorC = null);

/// <summary>What a flue on the drawing board would do.</summary>
/// <param name="Layout">How it would stand.</param>
/// <param name="Remarks">What to know about it.</param>
/// <param name="Before">The flue as it stands, under the same fire and weather.</param>
/// <param name="After">The one on the board.</param>
/// <param name="WhatIfs">Further changes that could be made to it.</param>
public sealed record FlueTrialAnswer(
    FlueLayout Layout, IReadOnlyList<FlueRemark> Remarks, DraftAnswer Before, DraftAnswer After, IReadOnlyList<WhatIf> WhatIfs);

/// <summary>A flue to save as a new version.</summary>
/// <param name="BaseNumber">Number of the version it started from.</param>
/// <param name="StoveXM">The stove's axis, m from the left wall.</param>
/// <param name="Flue">The chain.</param>
/// <param name="Obstacles">What stands around, at most 20.</param>
public sealed record FlueSave(int BaseNumber, double StoveXM, FlueEntry Flue, IReadOnlyList<Obstacle> Obstacles);

/// <summary>The flue editor: read, try, save.</summary>
public static class FlueEndpoints
{
    private const int LongestLabel = 80;
    private static readonly EntryRange _axis = new("The stove's place from the left wall", Quantity.Length, 0, 60);

    /// <summary>Maps the editor's endpoints.</summary>
    public static void MapFlues(this WebApplication app)
    {
        app.MapGet("/api/stoves/{id:guid}/flue", ReadAsync).RequireAuthorization(Policies.SignedIn).Produces<FlueAnswer>().ProducesProblem(404);
        app.MapPost("/api/stoves/{id:guid}/flue/trial", TryAsync).RequireAuthorization(Policies.SignedIn)
            .RequireRateLimiting(Policies.CalculationRate).Produces<FlueTrialAnswer>().ProducesValidationProblem();
        app.MapPut("/api/stoves/{id:guid}/flue/{versionId:guid}", SaveAsync).RequireAuthorization(Policies.Field)
            .Produces<FlueVersion>().ProducesValidationProblem().ProducesProblem(403).ProducesProblem(409);
    }

    private static async Task<IResult> ReadAsync(Guid id, HistoryStore histories)
    {
        if (await histories.StoveAsync(id) is not { History: var known })
            return Faults.Missing("stove");
        var outline = known.House.Outline();
        var collar = FlueReading.Stored(known.Flue).Segments[0].Section.NarrowestM;
        return TypedResults.Ok(new FlueAnswer(known.House, known.Stove, outline, known.Flue, TypicalFlue.For(outline, known.Stove.StandsAt(known.House, 0).CollarM, collar)));
    }

    private static async Task<IResult> TryAsync(Guid id, FlueTrial trial, [FromQuery] string? units,
        HistoryStore histories, TimeProvider clock)
    {
        if (await histories.StoveAsync(id) is not { History: var known, Firm: var firm })
            return Faults.Missing("stove");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        var house = known.House.Outline() with { Obstacles = trial.Obstacles };
        var flue = Read(trial.StoveXM, trial.Flue, trial.Obstacles, errors, system);
        var month = firm.Day(clock.GetUtcNow()).Month;
        var reading = new HotReading(trial.Level ?? "normal", OutdoorC: trial.OutdoorC);
        var place = HotPlace.Of(known);
        var before = place.Answer(reading, month, errors, system);
        if (flue is null || before is null || errors.Any)
            return Faults.Refused(errors);
        var question = (place with { Flue = trial.Flue }).Question(reading, month);
        var after = DraftAnswer.To(question, errors)!;
        var layout = FlueLayout.Of(flue, known.Stove.StandsAt(known.House, trial.StoveXM), house);
        return TypedResults.Ok(new FlueTrialAnswer(layout, FlueBuild.Remarks(flue, layout, house, system, after, known.Stove.Label?.CollarM), before, after,
            WhatIf.For(question, after, system)));
    }

    private static async Task<IResult> SaveAsync(Guid id, Guid versionId, FlueSave save, [FromQuery] string? units,
        ClaimsPrincipal user, StoveStore stoves, FirmStore firms, OpenVisits visits, DueKeeper due, TimeProvider clock)
    {
        if (!await stoves.ExistsAsync(id))
            return Faults.Missing("stove");
        if (!user.IsInRole("owner") && (await stoves.HolderAsync(id)) is { } holder && holder.Id != user.PersonId())
            return TypedResults.Problem(statusCode: 403, title: $"{holder.Name} has an open visit at this stove, which rests on its flue; only they and the owner change it now.");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        errors.CheckId("versionId", versionId, "A version");
        if (Read(save.StoveXM, save.Flue, save.Obstacles, errors, system) is not { } flue || errors.Any)
            return Faults.Refused(errors);
        // What was left open is written down as it was understood.
        var whole = save.Flue with
        {
            Cap = flue.Cap.Code,
            Segments = [.. save.Flue.Segments!.Zip(flue.Segments, (entry, read) => entry with { Label = read.Label, Id = read.Id })],
        };
        var day = (await firms.GetAsync()).Day(clock.GetUtcNow());
        var outcome = await stoves.SaveFlueAsync(id, new FlueVersion(versionId, save.BaseNumber, day, save.StoveXM, whole), save.Obstacles);
        if (outcome.State == SaveState.Saved)
        {
            await visits.ConcludeAgainAsync(id, system, user.PersonId());
            await due.StoveAsync(id);
        }
        return outcome.State == SaveState.Saved ? TypedResults.Ok(outcome.Stored)
            : outcome.State == SaveState.Reused ? Saving.Reused()
            : TypedResults.Problem(statusCode: 409, title: "Someone saved another version of this flue in between.",
                extensions: new Dictionary<string, object?> { ["stored"] = outcome.Stored });
    }

    private static FlueSystem? Read(double stoveXM, FlueEntry entry, IReadOnlyList<Obstacle> obstacles, EntryErrors errors, UnitSystem system)
    {
        errors.Check("stoveXM", stoveXM, _axis);
        Obstacle.Check(obstacles, errors);
        foreach (var (segment, i) in (entry.Segments ?? []).Select((segment, i) => (segment, i)))
        {
            if (segment?.Label is not null)
                errors.CheckText($"flue.segments[{i}].label", segment.Label, "A name", LongestLabel, needed: true);
            if (segment?.Id is not null)
                errors.CheckText($"flue.segments[{i}].id", segment.Id, "A piece's id", LongestLabel, needed: true);
        }
        var flue = FlueReading.Read(entry, errors, new Assumptions());
        foreach (var (segment, i) in (flue?.Segments ?? []).Select((segment, i) => (segment, i)))
        {
            if (flue!.Segments.Take(i).Any(before => before.Label == segment.Label))
                errors.Add($"flue.segments[{i}].label", $"Another piece is called “{segment.Label}” already: every piece of a flue has a name of its own.");
            else if (flue.Segments.Take(i).Any(before => before.Id == segment.Id))
                errors.Add($"flue.segments[{i}].id", $"“{segment.Label}” has the id of another piece: every piece of a flue has an id of its own.");
        }
        return errors.Any ? null : flue;
    }
}
