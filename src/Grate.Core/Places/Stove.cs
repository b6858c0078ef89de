namespace Grate.Core.Places;

/// <summary>A stove and where it stands in its house.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Kind">Word of the kind.</param>
/// <param name="Combustor">Whether it has a catalytic combustor.</param>
/// <param name="Model">What it is called, 1 to 200 characters.</param>
/// <param name="Year">Year it was made, 1800..2200.</param>
/// <param name="Room">Room, up to 100 characters.</param>
/// <param name="NominalKw">Nominal output, kW, 0.5..100.</param>
/// <param name="LabelMinPa">Label minimum draft, Pa, 0..100; null if not known.</param>
/// <param name="LabelMaxPa">Label maximum draft, Pa, 0..150; null if not known.</param>
/// <param name="Storey">Storey it stands on, 0 for the lowest.</param>
/// <param name="CollarHeightM">Collar above that storey's floor, m, 0.05..4.</param>
/// <param name="Measures">What was measured of its body; null where nothing was.</param>
/// <param name="Label">What else its label asks for; null where nobody read it.</param>
/// <param name="FlueLook">Since when its flue is to be looked through; null where nothing asks for that.</param>
public sealed record Stove(
    Guid Id, string Kind, bool Combustor, string Model, int Year, string Room, double NominalKw, double? LabelMinPa, double? LabelMaxPa,
    int Storey, double CollarHeightM, StoveMeasures? Measures = null, StoveLabel? Label = null, FlueLook? FlueLook = null)
{
    private static readonly EntryRange
        _year = new("Year", Quantity.Count, 1800, 2200),
        _output = new("Nominal output in kW", Quantity.Ratio, 0.5, 100),
        _min = new("Label minimum draft", Quantity.Draft, 0, 100),
        _max = new("Label maximum draft", Quantity.Draft, 0, 150),
        _collar = new("Height of the collar", Quantity.Length, 0.05, 4);

    /// <summary>Parts and ways it has.</summary>
    [JsonIgnore]
    public IReadOnlyList<string> Features => StoveKind.Find(Kind)?.FeaturesOf(Combustor) ?? [];

    /// <summary>The floor it stands on, m above that of the lowest storey.</summary>
    public double FloorM(House house) => house.StoreyHeightsM.Take(Storey).Sum();

    /// <summary>Where its flue starts.</summary>
    /// <param name="house">Its house.</param>
    /// <param name="acrossM">The stove's axis, m from the left wall.</param>
    public StovePlace StandsAt(House house, double acrossM) => new(acrossM, FloorM(house) + CollarHeightM);

    /// <summary>Refuses what cannot be.</summary>
    public void Check(House house, EntryErrors errors)
    {
        if (StoveKind.Find(Kind) is null)
            errors.Add("kind", Word.OneOf("Kind", Kind, StoveKind.All.Select(k => k.Code)));
        errors.CheckText("model", Model, "Model", 200, needed: true);
        errors.CheckText("room", Room, "Room", 100);
        errors.Check("year", Year, _year);
        errors.Check("nominalKw", NominalKw, _output);
        errors.Check("labelMinPa", LabelMinPa, _min);
        errors.Check("labelMaxPa", LabelMaxPa, _max);
        if (LabelMinPa >= LabelMaxPa)
            errors.Add("labelMaxPa", "The label's greatest draft must be more than its least.");
        if (Storey < 0 || Storey >= house.StoreyNames.Count)
            errors.Add("storey", $"This house has {house.StoreyNames.Count} storeys, the lowest is 0; {Storey} was sent.");
        errors.Check("collarHeightM", CollarHeightM, _collar);
        Label?.Check("label", errors);
    }
}

/// <summary>A version of a flue: the chain as the model reads it, and where it stands.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Number">1, 2, …</param>
/// <param name="ValidFrom">Built or changed on.</param>
/// <param name="StoveXM">Stove's axis from the house's left wall, m.</param>
/// <param name="Flue">The chain.</param>
public sealed record FlueVersion(Guid Id, int Number, DateOnly ValidFrom, double StoveXM, FlueEntry Flue);
