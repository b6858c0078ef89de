using BenchmarkDotNet.Attributes;
using Grate.Core;
using Grate.Core.Diagnosis;

namespace Grate.Benchmarks;

/// <summary>Causes of a steel stove weighed by five findings, with and without the next tests (goals: under 10 ms and 0.2 ms a posterior).</summary>
[MedianColumn]
[MemoryDiagnoser]
public class DiagnosisBenchmark
{
    private static readonly DiagnosisEntry _question = new("steel", Findings: new Dictionary<string, FindingTold>
    {
        ["sluggish"] = new(true),
        ["glass-black"] = new(true),
        ["smoke-cap"] = new(false),
        ["wood-wet"] = new(Number: 19.5),
        ["draft-low"] = new(Number: -1.2),
    });

    /// <summary>With the best questions and tests.</summary>
    [Benchmark]
    public DiagnosisAnswer? Proposed() => DiagnosisAnswer.To(_question, new EntryErrors());

    /// <summary>What it may be, and what speaks for it, alone.</summary>
    [Benchmark]
    public DiagnosisAnswer? Weighed() => DiagnosisAnswer.To(_question with { Proposals = false }, new EntryErrors());
}
