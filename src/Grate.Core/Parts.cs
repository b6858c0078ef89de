using Grate.Core.Air;
using Grate.Core.Burning;
using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Household;

namespace Grate.Core;

/// <summary>The parts of the trade. Their order is the order on screen; a new one is a line in <see cref="All"/>.</summary>
/// <param name="list">The parts.</param>
public sealed class Parts(IReadOnlyList<IPart> list)
{
    /// <summary>A stop of no part: anything that is unsafe.</summary>
    public static readonly StopReason OtherStop = new("other", "Unsafe: no fire until cleared.") { Retest = "Looked at again, and safe." };

    /// <summary>What Grate knows.</summary>
    public static Parts All { get; } = new(
    [
        new DiagnosisPart(),
        new BurningPart(),
        new FuelPart(),
        new CombustorPart(),
        new ClearancesPart(),
        new FireboxPart(),
        new DepositsPart(),
        new FluePart(),
        new DoorPart(),
        new AirPart(),
        new HouseholdPart(),
    ]);

    /// <summary>The parts in the order on screen.</summary>
    public IReadOnlyList<IPart> List { get; } = list;

    /// <summary>Every station.</summary>
    public IReadOnlyList<IStation> Stations { get; } = [.. list.SelectMany(p => p.Stations)];

    /// <summary>Every mark.</summary>
    public IReadOnlyList<PartMark> Marks { get; } = [.. list.SelectMany(p => p.Marks)];

    /// <summary>Every reason for a stop, the general one last.</summary>
    public IReadOnlyList<StopReason> Stops { get; } = [.. list.SelectMany(p => p.Stops), OtherStop];

    /// <summary>What a visit needs from the van: each thing once, with everything that it is for.</summary>
    public IReadOnlyList<VanItem> Van(VisitContext at) =>
        [.. List.SelectMany(p => p.Van(at)).GroupBy(i => i.What).Select(g => new VanItem(g.Key, string.Join("; ", g.Select(i => i.Why).Distinct())))];

    /// <summary>Names of facts whose median over the firm's visits is of use.</summary>
    public string[] Learns => [.. Stations.SelectMany(s => s.Learns)];

    /// <summary>The station of a code, if it stands in the step; null otherwise.</summary>
    public IStation? Station(string step, string code) => Stations.FirstOrDefault(s => s.Code == code && s.Steps.Contains(step));

    /// <summary>Stations of a step that a stove has, in the order on screen.</summary>
    public IEnumerable<IStation> StationsOf(string step, IReadOnlyCollection<string> features) =>
        Stations.Where(s => s.Steps.Contains(step) && (s.Feature is null || features.Contains(s.Feature))).OrderBy(s => s.AfterTheOthers);

    /// <summary>Marks of a step that a stove has.</summary>
    public IEnumerable<PartMark> MarksOf(string step, IReadOnlyCollection<string> features) =>
        Marks.Where(m => m.Steps.Contains(step) && (m.Feature is null || features.Contains(m.Feature)));

    /// <summary>The mark of a code, or null.</summary>
    public PartMark? Mark(string? code) => Marks.FirstOrDefault(m => m.Code == code);

    /// <summary>The name of a part, its word where nobody knows it any more.</summary>
    public string NameOf(string code) => Mark(code)?.Name ?? code.Replace('-', ' ');

    /// <summary>The reason of a stop, or null.</summary>
    public StopReason? Stop(string? code) => Stops.FirstOrDefault(s => s.Code == code);

    /// <summary>The reason of a stop; the general one where nobody knows it any more.</summary>
    public StopReason StopOrOther(string code) => Stop(code) ?? OtherStop;
}
