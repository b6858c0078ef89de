namespace Grate.Core.Places;

/// <summary>What a stove's label and manual ask for, beside its draft; what nobody read is null.</summary>
/// <param name="BackM">Distance to what burns behind it, m, 0..3.</param>
/// <param name="SideM">To its sides, m, 0..3.</param>
/// <param name="FrontM">In front of it, m, 0..3.</param>
/// <param name="AboveM">Above it, m, 0..3.</param>
/// <param name="HearthRM2KW">Resistance of the hearth below it, m² K/W, 0..5.</param>
/// <param name="CollarM">Inside diameter of its collar, m, 0.08..0.4.</param>
/// <param name="Fuel">Fuel it is made for, up to 100 characters.</param>
/// <param name="Manual">What its manual asks of whoever serves it, up to 1 000 characters.</param>
public sealed record StoveLabel(double? BackM = null, double? SideM = null, double? FrontM = null, double? AboveM = null, double? HearthRM2KW = null, double? CollarM = null, string Fuel = "", string Manual = "")
{
    private static readonly EntryRange
        _distance = new("Distance by the label", Quantity.Bore, 0, 3),
        _resistance = new("Resistance of the hearth by the label", Quantity.Resistance, 0, 5);

    /// <summary>Diameter of a collar.</summary>
    internal static readonly EntryRange CollarRange = new("Diameter of the collar", Quantity.Bore, 0.08, 0.4);

    /// <summary>Refuses what cannot be.</summary>
    /// <param name="field">Its field.</param>
    /// <param name="errors">Takes the refusals.</param>
    public void Check(string field, EntryErrors errors)
    {
        errors.Check($"{field}.backM", BackM, _distance);
        errors.Check($"{field}.sideM", SideM, _distance);
        errors.Check($"{field}.frontM", FrontM, _distance);
        errors.Check($"{field}.aboveM", AboveM, _distance);
        errors.Check($"{field}.hearthRM2KW", HearthRM2KW, _resistance);
        errors.Check($"{field}.collarM", CollarM, CollarRange);
        errors.CheckText($"{field}.fuel", Fuel, "Fuel", 100);
        errors.CheckText($"{field}.manual", Manual, "What the manual asks", 1000);
    }
}

/// <summary>Why a flue is to be looked through with a camera (handbook 10 section 3: on change of stove, on sale of the house).</summary>
/// <param name="Since">Day of what asks for it.</param>
/// <param name="Why">What it was: "another stove on it", up to 100 characters.</param>
public sealed record FlueLook(DateOnly Since, string Why);
