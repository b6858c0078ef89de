using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Air;

/// <summary>
/// A barometric regulator at high fire: a flap that lets room air into the pipe until the draft stands at what it is set to (handbook 06
/// section 4; its air by the model of 01, mixed in at the collar as a leak is).
/// </summary>
/// <param name="SetPa">What it is set to, Pa.</param>
/// <param name="AirKgS">Room air that it then takes, kg/s; 0 where the flue pulls no more than that.</param>
/// <param name="GasBeforeC">Gas at the collar, °C.</param>
/// <param name="GasAfterC">Gas behind the regulator, °C.</param>
/// <param name="HeatW">Heat of the house that goes up with that air, W.</param>
public sealed record Regulator(double SetPa, double AirKgS, double GasBeforeC, double GasAfterC, double HeatW)
{
    /// <summary>What a regulator may be set to.</summary>
    public static readonly EntryRange Range = new("What the regulator is set to", Quantity.Draft, 1, 100);

    /// <summary>
    /// A regulator in a stove's flue. A flue of 6 m that pulls 34 Pa at high fire and is held at 20 Pa: see the test for its air.
    /// </summary>
    /// <param name="setPa">What it is set to, Pa, 1..100.</param>
    /// <param name="draftPa">Draft read at high fire without it, Pa; null takes the expected one.</param>
    /// <param name="at">Flue, fire and surroundings.</param>
    /// <returns>The regulator; null where the flue cannot be reckoned, or no air brings it down so far.</returns>
    public static Regulator? Of(double setPa, double? draftPa, VisitContext at)
    {
        var errors = new EntryErrors();
        if (DraftCase.Read(HotPlace.Of(at).Question(new HotReading(Word.Of(FiringLevel.High)), at.Day.Month), errors, new Assumptions()) is not { } read)
            return null;
        var expected = DraftModel.Expect(read.Flue, read.Fire, read.Air);
        var down = (draftPa ?? expected.Pa) - setPa;
        var air = down <= Limit.Met ? 0 : DraftMeaning.RoomAirKgS(down, expected, read);
        return air is not { } kgS ? null
            : new(setPa, kgS, expected.Stream.CollarC, expected.Stream.DrawingIn(kgS, read.Fire, read.Air.IndoorC).CollarC, kgS * DryAir.HeatCapacityJKgK * Math.Max(0, read.Air.IndoorC - read.Air.OutdoorC));
    }
}
