using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>What this flue should pull now.</summary>
/// <param name="March">Cooling and losses behind it.</param>
/// <param name="Stream">The gas it carries.</param>
/// <param name="HousePa">House pressure in it, Pa.</param>
/// <param name="WindPa">Wind in it, Pa.</param>
/// <param name="DewPointC">Water dew point of the gas, °C.</param>
public sealed record ExpectedDraft(MarchResult March, CollarGas Stream, double HousePa, double WindPa, double DewPointC)
{
    /// <summary>Static draft at the collar against the room, Pa: buoyancy − losses + house + wind.</summary>
    public double Pa => March.DraftPa + HousePa + WindPa;
}

/// <summary>Expected draft (handbook 01 section 4).</summary>
public static class DraftModel
{
    /// <summary>Computes the expected draft of a flue under a fire.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="fire">The fire; burn rate above 0 (without a fire there is only the cold start).</param>
    /// <param name="air">Surroundings.</param>
    /// <param name="heatScale">Multiplies U; 1 but for its uncertainty.</param>
    /// <param name="pieceM">Greatest piece, m.</param>
    /// <param name="withProfile">Whether the profile along the flue is wanted.</param>
    public static ExpectedDraft Expect(FlueSystem flue, Fire fire, Surroundings air,
        double heatScale = 1, double pieceM = FlueMarch.PieceM, bool withProfile = false)
    {
        var stream = CollarGas.Of(fire);
        var march = FlueMarch.Run(flue, stream, air, heatScale, pieceM, withProfile);
        return new ExpectedDraft(march, stream, air.HousePressurePa.Value, air.WindPa,
            Humidity.DewPointC(stream.Gas.WaterFraction * air.StationPressurePa));
    }
}
