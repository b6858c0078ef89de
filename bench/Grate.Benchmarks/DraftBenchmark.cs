using BenchmarkDotNet.Attributes;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Places;

namespace Grate.Benchmarks;

/// <summary>One draft with profile, band and a judged reading (goal: median under 5 ms).</summary>
[MedianColumn]
[MemoryDiagnoser]
public class DraftBenchmark
{
    /// <summary>Handbook 01, case P05, four segments, with a reading that must be restated.</summary>
    internal static readonly DraftEntry Question = new(
        new SurroundingsEntry(2, 20, 0, HousePressurePa: -3),
        new FlueEntry(
        [
            Segment("double-wall-air", "indoor", 1.8), Segment("insulated-25", "indoor", 1.0),
            Segment("insulated-25", "attic", 2.0), Segment("insulated-25", "outdoor", 1.5),
        ], "low-resistance"),
        new FireEntry(220, BurnKgH: 2, ExcessAir: 2.2), new NeedEntry(12, 25), new ReadingEntry(9), null, true);

    /// <summary>The whole answer.</summary>
    [Benchmark]
    public DraftAnswer? Answer() => DraftAnswer.To(Question, new EntryErrors());

    private static SegmentEntry Segment(string construction, string place, double length) =>
        new(null, construction, new ShapeEntry("round", 0.15), length, length, place);
}
