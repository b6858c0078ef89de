using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>A deposit as entered; one thickness given serves for both.</summary>
/// <param name="Stage">1, 2 or 3.</param>
/// <param name="Mm">Typical thickness, mm.</param>
/// <param name="WorstMm">Thickness at the worst spot, mm.</param>
/// <param name="HowSeen">mirror, camera, scraped or cap: how it was seen.</param>
public sealed record DepositEntry(int? Stage = null, double? Mm = null, double? WorstMm = null, [property: Words(typeof(HowSeen))] string? HowSeen = null)
{
    /// <summary>The worst thickness known of it, mm.</summary>
    internal double ThickestMm => WorstMm ?? Mm ?? 0;
}

/// <summary>How a deposit was seen.</summary>
[JsonConverter(typeof(WordConverter<HowSeen>))]
public enum HowSeen
{
    /// <summary>With mirror and light.</summary>
    [Said("Mirror and light")]
    Mirror,

    /// <summary>By camera.</summary>
    Camera,

    /// <summary>Scraped off.</summary>
    Scraped,

    /// <summary>Through the cap.</summary>
    [Said("Through the cap")]
    Cap,
}

/// <summary>The question of POST /api/calculations/deposits (handbook 02, sections 2 and 4).</summary>
/// <param name="Flue">The chain; deposits entered in its segments are ignored here.</param>
/// <param name="Surroundings">Air; outdoors by default the monthly means weighted by the wood.</param>
/// <param name="Fire">The fire; its level by default that of the habit.</param>
/// <param name="Technology">What burns the wood.</param>
/// <param name="Habit">hot, mixed or slow.</param>
/// <param name="StageByLabel">Deposits by the segments' labels; a segment without one is clean.</param>
/// <param name="SweptL">What the sweep brought down, L.</param>
public sealed record DepositsEntry(
    FlueEntry? Flue = null, SurroundingsEntry? Surroundings = null, FireEntry? Fire = null, string? Technology = null, string? Habit = null,
    IReadOnlyDictionary<string, DepositEntry?>? StageByLabel = null, double? SweptL = null);

/// <summary>What a segment holds, and how fast it comes back.</summary>
/// <param name="Label">The segment.</param>
/// <param name="VolumeL">Deposit on its wall, L.</param>
/// <param name="LooseL">The same once it has fallen, L.</param>
/// <param name="MassKg">Mass, kg.</param>
/// <param name="FreeAreaShare">Free section over whole.</param>
/// <param name="WallC">Inner wall, clean, °C.</param>
/// <param name="RateMmPer100Kg">Growth, mm per 100 kg of wood as fired.</param>
/// <param name="LikelyStage">Stage to be expected.</param>
public sealed record SegmentDeposit(
    string Label, double VolumeL, double LooseL, double MassKg, double FreeAreaShare, double WallC, double RateMmPer100Kg, int LikelyStage);

/// <summary>What the swept volume says.</summary>
[JsonConverter(typeof(WordConverter<SweptVerdict>))]
public enum SweptVerdict
{
    /// <summary>It agrees with what was measured.</summary>
    AsComputed,

    /// <summary>A hidden deposit was missed below or above.</summary>
    MoreThanComputed,

    /// <summary>It is still up there.</summary>
    LessThanComputed,
}

/// <summary>The answer of POST /api/calculations/deposits.</summary>
/// <param name="Segments">In flow order.</param>
/// <param name="DraftLostPa">Expected draft of the clean flue less that of the narrowed one, not below 0, Pa.</param>
/// <param name="TotalMassKg">Everything that hangs in the flue, kg.</param>
/// <param name="WoodEquivalentKg">Dry wood that would burn like it, kg.</param>
/// <param name="WorstLabel">Segment whose deposit grows fastest.</param>
/// <param name="WorstRateMmPer100Kg">Its rate.</param>
/// <param name="SweptVerdict">What the swept volume says; null if none was entered.</param>
/// <param name="Assumed">Every default used.</param>
public sealed record DepositsAnswer(
    IReadOnlyList<SegmentDeposit> Segments, double DraftLostPa, double TotalMassKg, double WoodEquivalentKg,
    string WorstLabel, double WorstRateMmPer100Kg, SweptVerdict? SweptVerdict, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>More swept than this, times the computed loose volume: a hidden deposit.</summary>
    public static readonly Limit SweptMuch = Limit.Assumed(1.5, "", "more than half as much again fell");

    /// <summary>Less swept than this share: it is still up there.</summary>
    public static readonly Limit SweptLittle = Limit.Assumed(0.5, "", "less than half of it fell");

    private static readonly EntryRange _thickness = new("Thickness", Quantity.Thickness, 0, 500, 0.001);
    private static readonly EntryRange _swept = new("Swept volume", Quantity.SmallVolume, 0, 1000, 0.001);

    /// <summary>Answers a deposits question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static DepositsAnswer? To(DepositsEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        if (Case.Read(entry, errors, assumed) is not { } read)
            return null;
        var (flue, deposits, fire, air) = (read.Flue, read.Deposits, read.Fire, read.Air);
        var clean = DraftModel.Expect(flue, fire, air);
        var rates = read.Rates(clean);
        var segments = flue.Segments.Select((s, i) =>
        {
            var amount = deposits[i]?.In(s) ?? DepositAmount.None;
            return new SegmentDeposit(s.Label, amount.VolumeL, amount.LooseL, amount.MassKg, amount.FreeAreaShare,
                rates[i].WallC, rates[i].MmPer100Kg, rates[i].LikelyStage);
        }).ToList();
        var narrowed = flue with { Segments = [.. flue.Segments.Select((s, i) => s with { DepositMm = deposits[i]?.TypicalMm ?? 0 })] };
        var mass = segments.Sum(s => s.MassKg);
        var worst = segments.MaxBy(s => s.RateMmPer100Kg)!;
        return new DepositsAnswer(segments, Math.Max(0, clean.Pa - DraftModel.Expect(narrowed, fire, air).Pa),
            mass, mass * Deposit.FuelMJKg.Value / WoodClass.Mixed.DryMJKg.Value, worst.Label, worst.RateMmPer100Kg,
            entry.SweptL is { } swept ? Judge(swept, segments.Sum(s => s.LooseL)) : null, assumed.Used);
    }

    /// <summary>The worst segment's rate alone, mm per 100 kg; null if the question is refused.</summary>
    internal static double? WorstRateOf(DepositsEntry entry, EntryErrors errors) =>
        Case.Read(entry, errors, new Assumptions()) is { } read
            ? read.Rates(DraftModel.Expect(read.Flue, read.Fire, read.Air)).Max(r => r.MmPer100Kg) : null;

    private sealed record Case(FlueSystem Flue, IReadOnlyList<Deposit?> Deposits, Fire Fire, Surroundings Air, Technology Technology, Habit Habit)
    {
        public static Case? Read(DepositsEntry entry, EntryErrors errors, Assumptions assumed)
        {
            var flue = FlueReading.Read(Clean(entry.Flue), errors, assumed);
            var deposits = flue is null ? [] : DepositsAnswer.Read(entry.StageByLabel, flue, errors);
            var technology = errors.Need<Technology>("technology", entry.Technology, "Technology");
            var habit = errors.Need<Habit>("habit", entry.Habit, "Habit");
            errors.Check("sweptL", entry.SweptL, _swept);
            var air = DraftCase.ReadAir(Outdoors(entry.Surroundings, assumed), errors, assumed);
            var fire = DraftCase.ReadFire(Fired(entry.Fire, habit, assumed), air, flue, errors, assumed);
            return errors.Any ? null : new Case(flue!, deposits, fire!, air!, technology!.Value, habit!.Value);
        }

        public IReadOnlyList<SegmentRate> Rates(ExpectedDraft clean) =>
            DepositRate.Of(Flue.Segments.Select((s, i) => (s.LengthM, s.Section.PerimeterM, clean.March.SegmentWallC[i])), Technology, Habit, Fire.MoistureWet);
    }

    /// <summary>Holds the swept volume against the computed loose one.</summary>
    public static SweptVerdict Judge(double sweptL, double looseL) =>
        sweptL > SweptMuch.Value * looseL ? Deposits.SweptVerdict.MoreThanComputed
        : sweptL < SweptLittle.Value * looseL ? Deposits.SweptVerdict.LessThanComputed
        : Deposits.SweptVerdict.AsComputed;

    private static SurroundingsEntry Outdoors(SurroundingsEntry? entry, Assumptions assumed)
    {
        if (entry?.OutdoorC is not null)
            return entry;
        var mean = new WoodYear(WoodYear.OrdinaryC).OutdoorC;
        return (entry ?? new SurroundingsEntry()) with
        {
            OutdoorC = assumed.Or(null, "surroundings.outdoorC", Limit.Assumed(mean, "°C", "the monthly means of an ordinary site, weighted by the wood burnt")),
        };
    }

    private static FlueEntry? Clean(FlueEntry? flue) => flue is null ? null
        : flue with { Segments = flue.Segments?.Select(s => s is null ? s! : s with { DepositMm = 0 }).ToList() };

    private static FireEntry Fired(FireEntry? fire, Habit? habit, Assumptions assumed)
    {
        var given = fire ?? new FireEntry();
        if (given.Level is not null || habit is not { } runs)
            return given;
        var level = Word.Of(DepositRate.LevelOf(runs));
        assumed.Note("fire.level", level, Mark.Assumption, $"a {level} fire, by habit");
        return given with { Level = level };
    }

    private static List<Deposit?> Read(IReadOnlyDictionary<string, DepositEntry?>? entries, FlueSystem flue, EntryErrors errors)
    {
        var labels = flue.Segments.Select(s => s.Label).ToList();
        foreach (var unknown in (entries?.Keys ?? []).Where(label => !labels.Contains(label)))
            errors.Add("stageByLabel", $"“{unknown[..Math.Min(unknown.Length, 40)]}” is no segment of this flue: {string.Join(", ", labels)}.");
        return [.. flue.Segments.Select(s => entries?.GetValueOrDefault(s.Label) is { } entry ? Read(entry, s, $"stageByLabel.{s.Label}", errors) : null)];
    }

    private static Deposit? Read(DepositEntry entry, Segment segment, string path, EntryErrors errors)
    {
        var deposit = Read(entry, path, errors);
        if (deposit is not null)
            FlueReading.RefuseTooThick($"{path}.mm", deposit.TypicalMm, segment.Section, errors);
        return deposit;
    }

    /// <summary>Reads a deposit on its own, without the segment it hangs in.</summary>
    internal static Deposit? Read(DepositEntry entry, string path, EntryErrors errors)
    {
        errors.CheckWord<HowSeen>($"{path}.howSeen", entry.HowSeen, "How it was seen");
        if (DepositStage.Find(entry.Stage) is not { } stage)
        {
            errors.Add($"{path}.stage", "The stage of a deposit is 1 (powder), 2 (flakes) or 3 (tar, glaze).");
            return null;
        }
        if (!errors.Need($"{path}.mm", entry.Mm ?? entry.WorstMm, _thickness) | (entry.WorstMm is not null && !errors.Check($"{path}.worstMm", entry.WorstMm, _thickness)))
            return null;
        if (entry.WorstMm < entry.Mm)
        {
            errors.Add($"{path}.worstMm", "The worst spot cannot be thinner than the typical one: correct one of them.");
            return null;
        }
        return new Deposit(stage, (entry.Mm ?? entry.WorstMm)!.Value, entry.ThickestMm);
    }
}
