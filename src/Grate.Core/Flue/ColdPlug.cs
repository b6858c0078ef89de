namespace Grate.Core.Flue;

/// <summary>What the weather does to a cold flue, told before anybody drives out (handbook 01 section 7).</summary>
public static class ColdPlug
{
    /// <summary>Time with a torch when the air falls strongly.</summary>
    public static readonly Limit Practice = Limit.Practice(5, "min", "five to six minutes when the fall is strong; longer where the wall takes more");

    /// <summary>The cold flue in the weather that is forecast; null where nobody tells it.</summary>
    public static ColdStartAnswer? Forecast(VisitContext at) => at.Weather is { } weather ? ColdStartAnswer.To(new ColdStartEntry(
        new ColdSurroundingsEntry(weather.OutdoorC, null, at.House.AltitudeM, OutdoorColdC: weather.OvernightLowC), at.Flue.Flue, Word.Of(HeatSource.Torch)), new EntryErrors()) : null;

    /// <summary>The warning for a visit; null where nothing is to be feared or nobody tells the weather.</summary>
    public static string? Warning(VisitContext at)
    {
        if (Forecast(at) is not { Plug: true } cold)
            return null;
        return cold.PreheatS is { } seconds
            ? $"Cold plug likely: bring the torch, allow {Math.Max(Practice.Value, Math.Ceiling(seconds / 60)):0} minutes."
            : "Cold plug likely, and a torch alone will not turn it: bring torch and dryer, allow a quarter of an hour.";
    }
}
