using Grate.Core.Flue;

namespace Grate.Core.Deposits;

/// <summary>A stage of deposit: what weighs and what falls (handbook 02 section 2, [A]).</summary>
/// <param name="Stage">1 powder, 2 flakes, 3 tar and glaze.</param>
/// <param name="DensityKgM3">Density.</param>
/// <param name="Loosening">Loose volume over volume on the wall.</param>
public sealed record DepositStage(int Stage, Limit DensityKgM3, Limit Loosening)
{
    /// <summary>All three.</summary>
    public static IReadOnlyList<DepositStage> All { get; } =
    [
        new(1, Limit.Assumed(150, "kg/m³", "fine powder"), Limit.Assumed(2, "", "powder falls loose")),
        new(2, Limit.Assumed(400, "kg/m³", "flakes and granules"), Limit.Assumed(1.5, "", "flakes fall loose")),
        new(3, Limit.Assumed(1100, "kg/m³", "tar and glaze"), Limit.Assumed(1.2, "", "glaze comes off in pieces")),
    ];

    /// <summary>The stage of a number, or null.</summary>
    public static DepositStage? Find(int? stage) => All.FirstOrDefault(s => s.Stage == stage);
}

/// <summary>A deposit on the wall of a segment.</summary>
/// <param name="Stage">Its stage.</param>
/// <param name="TypicalMm">Typical thickness, mm.</param>
/// <param name="WorstMm">Thickness at the worst spot, mm.</param>
public sealed record Deposit(DepositStage Stage, double TypicalMm, double WorstMm)
{
    /// <summary>From this on, at the worst spot: sweep.</summary>
    public static readonly Limit SweepFrom = Limit.Practice(3, "mm", "1/8 in: sweep; also NFPA 211 guidance (from memory)");

    /// <summary>From this on, at the worst spot: do not burn until swept.</summary>
    public static readonly Limit StopFrom = Limit.Practice(6, "mm", "1/4 in: do not burn until swept; also NFPA 211 guidance (from memory)");

    /// <summary>Fuel value of a deposit, MJ/kg.</summary>
    public static readonly Limit FuelMJKg = Limit.Assumed(25, "MJ/kg", "what a deposit burns with");

    /// <summary>What it takes of a segment.</summary>
    /// <param name="segment">The segment, clean.</param>
    public DepositAmount In(Segment segment)
    {
        var whole = segment.Section.AreaM2;
        var free = segment.Section.Narrowed(TypicalMm / 1000).AreaM2;
        var volumeM3 = (whole - free) * segment.LengthM;
        return new DepositAmount(1000 * volumeM3, 1000 * volumeM3 * Stage.Loosening.Value, volumeM3 * Stage.DensityKgM3.Value, free / whole);
    }
}

/// <summary>What a deposit comes to.</summary>
/// <param name="VolumeL">On the wall, L.</param>
/// <param name="LooseL">Once it has fallen, L.</param>
/// <param name="MassKg">Mass, kg.</param>
/// <param name="FreeAreaShare">Free section over whole, 0..1.</param>
public sealed record DepositAmount(double VolumeL, double LooseL, double MassKg, double FreeAreaShare)
{
    /// <summary>A clean segment.</summary>
    public static readonly DepositAmount None = new(0, 0, 0, 1);
}
