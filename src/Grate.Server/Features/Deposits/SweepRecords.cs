using System.Text.Json;
using Grate.Core.Deposits;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Store;

namespace Grate.Server.Features.Deposits;

/// <summary>What the records know of a stove that is swept, as the core asks for it.</summary>
public sealed class SweepRecords(SweepStore sweeps)
{
    /// <summary>A stove with its earlier sweeps and its household's wood.</summary>
    /// <param name="stove">The stove.</param>
    /// <param name="flue">The version that stands there.</param>
    /// <param name="at">Only sweeps before this, and wood up to it.</param>
    public async Task<SweepPlace> PlaceAsync(Stove stove, FlueVersion flue, DateTime at) =>
        PlaceOf(stove, flue, await sweeps.WoodAsync(stove.Id, at), await sweeps.OfStoveAsync(stove.Id, flue.Id, at), await sweeps.CombustorAsync(stove.Id, at))
            with
        { Learned = await sweeps.LearnedAsync(stove.Kind, at) };

    /// <summary>The same from rows that are at hand.</summary>
    /// <param name="stove">The stove.</param>
    /// <param name="flue">The version that stands there.</param>
    /// <param name="wood">The newest word on the wood, or null.</param>
    /// <param name="past">Its sweeps, oldest first.</param>
    /// <param name="combustor">The latest word on the combustor, or null.</param>
    public static SweepPlace PlaceOf(Stove stove, FlueVersion flue, string? wood, IEnumerable<SweepRow> past, string? combustor) =>
        new(flue.Flue, stove.AltitudeM, stove.MonthlyC, SweepPlace.BurnsIn(stove.Kind, stove.Combustor, stove.Year, combustor),
            [.. StoveKind.Find(stove.Kind)!.FeaturesOf(stove.Combustor)], ReadWood(wood) ?? new WoodRecord(),
            [.. past.Select(r => new EarlierSweep(DateOnly.FromDateTime(r.At), JsonSerializer.Deserialize<SweepRecord>(r.Record, Json.Options)!, ReadWood(r.Wood), r.ThisFlue))]);

    private static WoodRecord? ReadWood(string? json) => json is null ? null : JsonSerializer.Deserialize<WoodRecord>(json, Json.Options);
}
