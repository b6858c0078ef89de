namespace Grate.Core.Combustor;

/// <summary>Verdict of a light-off test.</summary>
[JsonConverter(typeof(WordConverter<LightOffVerdict>))]
public enum LightOffVerdict
{
    /// <summary>It lights off.</summary>
    Pass,

    /// <summary>The probe climbs, the top of the chimney smokes on.</summary>
    Doubtful,

    /// <summary>Too short, or no good fire.</summary>
    NotJudged,

    /// <summary>The bypass was closed below the start temperature: repeat, it is free.</summary>
    ClosedTooEarly,

    /// <summary>It does not light off.</summary>
    Fail,
}

/// <summary>Where to look when it does not light off, the cheapest first.</summary>
[JsonConverter(typeof(WordConverter<LightOffLook>))]
public enum LightOffLook
{
    /// <summary>Closed below the start temperature.</summary>
    ClosedTooEarly,

    /// <summary>Cells are blocked.</summary>
    CellsBlocked,

    /// <summary>Cells are dead.</summary>
    CellsDead,

    /// <summary>The bypass leaks.</summary>
    BypassLeaking,

    /// <summary>Its seal leaks.</summary>
    SealLeaking,
}

/// <summary>How hot a combustor is.</summary>
[JsonConverter(typeof(WordConverter<CombustorZone>))]
public enum CombustorZone
{
    /// <summary>Below its start.</summary>
    BelowStart,

    /// <summary>Starting.</summary>
    Starting,

    /// <summary>Working.</summary>
    Working,

    /// <summary>Hot.</summary>
    Hot,

    /// <summary>It ages fast.</summary>
    AgesFast,

    /// <summary>It is destroyed.</summary>
    Destroys,
}

/// <summary>What a light-off test comes to (handbook 05 section 1).</summary>
/// <param name="ClosedAtC">Probe when the bypass was closed, °C.</param>
/// <param name="MinutesTo50K">Minutes until it stood 50 K higher; null where it never did.</param>
/// <param name="RiseAt10K">What it had climbed after ten minutes, K; null where the test was shorter.</param>
/// <param name="Verdict">The verdict.</param>
/// <param name="LookAt">Where to look, the cheapest first.</param>
/// <param name="PeakC">Highest sample, °C.</param>
/// <param name="PeakZone">How hot that is.</param>
public sealed record LightOff(double ClosedAtC, double? MinutesTo50K, double? RiseAt10K, LightOffVerdict Verdict, IReadOnlyList<LightOffLook> LookAt, double PeakC, CombustorZone PeakZone)
{
    private static readonly LightOffLook[] _cheapestFirst = [LightOffLook.CellsBlocked, LightOffLook.CellsDead, LightOffLook.BypassLeaking, LightOffLook.SealLeaking];

    /// <summary>Judges a test.</summary>
    /// <param name="samples">Minutes from the closing of the bypass and the probe, °C; at least one.</param>
    /// <param name="startC">Probe from which the bypass may be closed, °C.</param>
    /// <param name="goodFire">Whether a good fire burnt.</param>
    /// <param name="topClear">Whether the top of the chimney cleared; null where nobody looked.</param>
    public static LightOff Of(IReadOnlyList<(double Minute, double ProbeC)> samples, double startC, bool goodFire, bool? topClear)
    {
        var run = samples.OrderBy(s => s.Minute).ToList();
        // Between samples straight lines, before the first and after the last what they say.
        double At(double minute)
        {
            var next = run.FindIndex(s => s.Minute >= minute);
            if (next <= 0)
                return next < 0 ? run[^1].ProbeC : run[0].ProbeC;
            var (from, to) = (run[next - 1], run[next]);
            return from.ProbeC + (to.ProbeC - from.ProbeC) * (minute - from.Minute) / (to.Minute - from.Minute);
        }
        var closed = At(0);
        var goal = closed + CombustorLimits.Climb.Value;
        double? minutes = null;
        var last = (Minute: 0.0, ProbeC: closed);
        foreach (var sample in run.Where(s => s.Minute >= 0))
        {
            if (sample.ProbeC >= goal - Limit.Met)
            {
                minutes = sample.ProbeC > last.ProbeC ? last.Minute + (sample.Minute - last.Minute) * Math.Clamp((goal - last.ProbeC) / (sample.ProbeC - last.ProbeC), 0, 1) : sample.Minute;
                break;
            }
            last = sample;
        }
        var window = CombustorLimits.Window.Value;
        var reaches = run[^1].Minute >= window - Limit.Met;
        var verdict = minutes <= window + Limit.Met ? topClear == false ? LightOffVerdict.Doubtful : LightOffVerdict.Pass
            : !reaches || !goodFire ? LightOffVerdict.NotJudged
            : closed < startC - Limit.Met ? LightOffVerdict.ClosedTooEarly : LightOffVerdict.Fail;
        var peak = run.Max(s => s.ProbeC);
        return new(closed, minutes, reaches ? At(window) - closed : null, verdict, verdict switch
        {
            LightOffVerdict.Fail or LightOffVerdict.Doubtful => _cheapestFirst,
            LightOffVerdict.ClosedTooEarly => [LightOffLook.ClosedTooEarly],
            _ => [],
        }, peak, ZoneOf(peak));
    }

    /// <summary>How hot a combustor is: 610 °C is its working range (260, 370, 760, 870, 980 °C part them).</summary>
    public static CombustorZone ZoneOf(double probeC) =>
        probeC < CombustorLimits.Start.Value - Limit.Met ? CombustorZone.BelowStart
        : probeC < CombustorLimits.Works.Value - Limit.Met ? CombustorZone.Starting
        : probeC <= CombustorLimits.WorksTo.Value + Limit.Met ? CombustorZone.Working
        : probeC <= CombustorLimits.AgesFrom.Value + Limit.Met ? CombustorZone.Hot
        : probeC < CombustorLimits.Destroys.Value - Limit.Met ? CombustorZone.AgesFast : CombustorZone.Destroys;
}
