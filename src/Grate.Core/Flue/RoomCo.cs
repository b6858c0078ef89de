using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>Carbon monoxide in the room (handbook 07 section 3, 11 section 1).</summary>
public static class RoomCo
{
    /// <summary>Above this: find out why.</summary>
    public static readonly Limit FindOutWhy = Limit.Practice(9, "ppm", "more than an ordinary room holds");

    /// <summary>From this on: stop testing and air.</summary>
    public static readonly Limit Stop = Limit.Practice(35, "ppm", "no further test at this level");

    /// <summary>From this on: everybody out.</summary>
    public static readonly Limit Out = Limit.Practice(100, "ppm", "headache and dizziness follow");

    /// <summary>What a reading means.</summary>
    /// <param name="ppm">Reading, ppm, 0..2000. 35 stops the test, 100 sends everybody out.</param>
    public static Sentence Meaning(double ppm)
    {
        var read = Measured(Units.Of(Quantity.Concentration, UnitSystem.Metric).Format(ppm));
        return ppm >= Out.Value ? Say(read, $" of carbon monoxide in the room. {Emergency.Of(EmergencyKind.Co).Tell}") with { Weight = Weight.Stop }
            : ppm >= Stop.Value ? Say(read, " of carbon monoxide in the room: stop the test and air. No fire until this is cured.") with { Weight = Weight.Stop }
            : ppm > FindOutWhy.Value ? Say(read, " of carbon monoxide in the room is more than an ordinary room holds: find out why.")
            : Say(read, " of carbon monoxide in the room is ordinary.") with { Weight = Weight.Hint };
    }
}
