using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>What the air in the cold flue was seen to do.</summary>
[JsonConverter(typeof(WordConverter<AirFall>))]
public enum AirFall
{
    /// <summary>It falls into the room.</summary>
    [Said("Air falls")]
    Falls,

    /// <summary>It stands.</summary>
    Stands,

    /// <summary>It rises.</summary>
    Rises,
}

/// <summary>Cold checks as typed at the stove, before anything is disturbed; every field may still be missing.</summary>
/// <param name="OutdoorC">Outdoors, °C.</param>
/// <param name="OvernightLowC">Lowest of the night, °C.</param>
/// <param name="RoomC">Room, °C.</param>
/// <param name="AirFall">falls, stands or rises, by hand or smoke at the collar.</param>
/// <param name="ColdDraftPa">Cold draft by gauge, Pa.</param>
/// <param name="Source">What is at hand to warm the flue: torch, dryer or newspaper.</param>
/// <param name="Fans">Fans of the house.</param>
/// <param name="SupplyM3S">Supply air, m³/s.</param>
/// <param name="RoomOffPa">Room against outdoors, all fans off, Pa.</param>
/// <param name="RoomOnPa">The same, all fans on, Pa.</param>
public sealed record ColdChecks(
    double? OutdoorC = null, double? OvernightLowC = null, double? RoomC = null, [property: Words(typeof(AirFall))] string? AirFall = null,
    double? ColdDraftPa = null, [property: Words(typeof(HeatSource))] string? Source = null,
    IReadOnlyList<FanEntry>? Fans = null, double? SupplyM3S = null, double? RoomOffPa = null, double? RoomOnPa = null);

/// <summary>What follows from the cold checks (handbook 01 sections 7 and 8).</summary>
/// <param name="Start">The cold start.</param>
/// <param name="House">House pressure with all fans on; null where the house's volume is not known.</param>
/// <param name="FansOneByOne">The room as the fans go on.</param>
/// <param name="Sentences">In words.</param>
public sealed record ColdChecksAnswer(ColdStartAnswer Start, HousePressureAnswer? House, IReadOnlyList<FanStep> FansOneByOne, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    private const int MostFans = 12;
    private static readonly EntryRange _flow = new("Flow", Quantity.AirFlow, 0, 2);

    /// <summary>Answers the cold checks at a place.</summary>
    /// <param name="checks">As typed.</param>
    /// <param name="place">What the records know.</param>
    /// <param name="month">Month of the visit, 1..12: its mean stands in for a missing outdoor temperature.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="ColdChecks"/>.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <param name="weather">The weather of the day; null where nobody tells it.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static ColdChecksAnswer? To(ColdChecks checks, HotPlace place, int month, EntryErrors errors, UnitSystem system, WeatherThen? weather = null)
    {
        var seen = Seen(checks.AirFall, errors);
        errors.Check("coldDraftPa", checks.ColdDraftPa, FlueRanges.Reading);
        errors.Check("supplyM3S", checks.SupplyM3S, _flow);
        new WorstCase(checks.RoomOffPa, checks.RoomOnPa).Check("", errors);
        var fans = ReadFans(checks.Fans ?? [], errors);
        var outdoorC = checks.OutdoorC ?? weather?.OutdoorC ?? place.MonthlyC[month - 1];
        var start = HotPlace.Refusing(errors, system, refused => ColdStartAnswer.To(new ColdStartEntry(
            new ColdSurroundingsEntry(outdoorC, checks.RoomC, place.AltitudeM, null, checks.RoomOffPa, checks.RoomOffPa is null ? null : true, null, checks.OvernightLowC ?? (checks.OutdoorC is null ? weather?.OvernightLowC : null)),
            place.Flue, checks.Source), refused));
        if (start is null || errors.Any)
            return null;

        var said = new Said();
        AddStart(said, start, checks, seen, system);
        var steps = new List<FanStep>();
        HousePressureAnswer? house = null;
        if (place.House is { VolumeM3: not null } air)
        {
            var limit = HouseAir.LimitPa(place.Answer(new HotReading("low", OutdoorC: outdoorC), month, new EntryErrors(), system)?.ExpectedPa ?? 0);
            HousePressureAnswer? Pressure(int running) => HotPlace.Refusing(errors, system, refused => HousePressureAnswer.To(
                air.Question([.. fans.Take(running).Select(f => f.FlowM3S)], outdoorC, checks.RoomC, checks.SupplyM3S, limit), refused));
            house = Pressure(fans.Count);
            steps = [.. fans.Select((f, i) => new FanStep(f.Name, f.FlowM3S, Pressure(i + 1)?.TotalPa ?? 0))];
            if (house is not null)
                AddHouse(said, house, steps, limit, system);
        }
        said.Take(new WorstCase(checks.RoomOffPa, checks.RoomOnPa).Words(system));
        return errors.Any ? null : new ColdChecksAnswer(start, house, steps, said.InOrder());
    }

    private static AirFall? Seen(string? word, EntryErrors errors)
    {
        var seen = Word.Find<AirFall>(word);
        if (word is not null && seen is null)
            errors.Add("airFall", Word.OneOf("Air-fall", word, Word.All<AirFall>()));
        return seen;
    }

    private static List<(string Name, double FlowM3S)> ReadFans(IReadOnlyList<FanEntry> entries, EntryErrors errors)
    {
        var fans = new List<(string, double)>();
        foreach (var (entry, i) in errors.Each("fans", entries, MostFans, "fans"))
        {
            if (Fan.Find(entry.Kind) is not { } fan)
                errors.Add($"fans[{i}].kind", Word.OneOf("Fan", entry.Kind, Fan.All.Select(f => f.Code)));
            else if (entry.FlowM3S is null || errors.Check($"fans[{i}].flowM3S", entry.FlowM3S, _flow))
                fans.Add((fan.Name, entry.FlowM3S ?? fan.FlowM3S.Value));
        }
        return fans;
    }

    // What was seen at the collar stands above what was computed: the advice follows it.
    private static void AddStart(Said said, ColdStartAnswer start, ColdChecks checks, AirFall? seen, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var plug = start.State == ColdState.Plug;
        said.Add(Weight.Verdict, Say("Cold, this flue should stand at ", Computed(draft.Format(start.ColdDraftPa)), "."));
        if (checks.ColdDraftPa is { } read)
        {
            var missing = start.ColdDraftPa - read;
            said.Add(Weight.Verdict, Say("You read ", Measured(draft.Format(read)), missing > ColdStart.Target.Value
                ? ": well below that. A fan, another chimney or a blocked top pulls against it."
                : missing < -ColdStart.Target.Value ? ": well above that. Wind, or the flue is still warm."
                : plug ? ": the plug is there, as computed." : ": as it should."));
        }
        // By hand it does one thing, by gauge the other: nothing is advised on either.
        if ((seen == Flue.AirFall.Falls && checks.ColdDraftPa >= ColdStart.Standing.Value) || (seen == Flue.AirFall.Rises && checks.ColdDraftPa <= -ColdStart.Standing.Value))
        {
            said.Add(Weight.Verdict, Say(seen == Flue.AirFall.Falls ? "By hand the air falls, by gauge it is " : "By hand the air rises, by gauge it is ", Measured(draft.Format(checks.ColdDraftPa!.Value)),
                ": one of the two is wrong. Look at the hose and its side, and hold smoke to the collar again, before anything is lit."));
            return;
        }
        var falls = seen == Flue.AirFall.Falls || seen is null && checks.ColdDraftPa <= -ColdStart.Standing.Value;
        var rises = seen == Flue.AirFall.Rises || seen is null && checks.ColdDraftPa > ColdStart.Target.Value;
        if (falls && !plug)
            said.Add(Weight.Verdict, Say("The air falls although the flue is not that cold: the house, a fan or another chimney pulls on it. Find that first; lit now, it smokes."));
        else if (rises && plug)
            said.Add(Weight.Verdict, Say("The air rises although a plug was to be expected: the flue is warmer than the night. Light from the top."));
        else
            said.Add(Weight.Verdict, Say(start.Advice));
    }

    private static void AddHouse(Said said, HousePressureAnswer house, List<FanStep> steps, double limitPa, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        said.Add(Weight.Hint, Say("The house by itself sets the room at ", Computed(draft.Format(house.StackPa)), house.StackPa < 0 ? " against outdoors, warm air rising in it." : " against outdoors."));
        if (steps.Count == 0)
            return;
        var more = house.MakeupLS > 0;
        said.Add(Weight.Hint, Say(steps.Count == 1 ? $"With the {steps[0].Name} on it comes to " : $"With all {steps.Count} fans on it comes to ", Computed(draft.Format(house.TotalPa)),
            more ? ": the fans alone take more than the " : ": the fans alone stay within the ", Computed(draft.Format(limitPa)), " this stove bears",
            more ? "; makeup air of " : ".", more ? Computed(Units.Of(Quantity.AirFlow, system).Format(house.MakeupLS / 1000)) : "", more ? " cures it." : ""));
    }
}
