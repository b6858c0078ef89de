namespace Grate.Core.Places;

/// <summary>A section as entered.</summary>
/// <param name="Kind">round or rectangular.</param>
/// <param name="DiameterM">Inside diameter of a round one, m.</param>
/// <param name="WidthM">Inside width of a rectangular one, m.</param>
/// <param name="DepthM">Inside depth of a rectangular one, m.</param>
public sealed record ShapeEntry(string? Kind = null, double? DiameterM = null, double? WidthM = null, double? DepthM = null);

/// <summary>A segment as entered.</summary>
/// <param name="Label">Name; default "segment N".</param>
/// <param name="Construction">Word of the construction table.</param>
/// <param name="Shape">Inside section.</param>
/// <param name="RiseM">Rise, m, 0..LengthM.</param>
/// <param name="LengthM">Length, m, 0.02..40.</param>
/// <param name="Surroundings">indoor, attic or outdoor.</param>
/// <param name="ResistanceM2KW">Wall resistance, m² K/W; default by construction.</param>
/// <param name="RoughnessMm">Roughness, mm; default by construction.</param>
/// <param name="Fittings">Fittings in it; default none.</param>
/// <param name="DepositMm">Deposit on every wall, mm; default 0.</param>
/// <param name="Toward">left or right, where it goes aside; for the drawing alone; default right.</param>
/// <param name="Id">What keeps it the same piece when it is moved or called otherwise, unique within a flue, at most 80 characters; default its label.</param>
public sealed record SegmentEntry(
    string? Label = null, string? Construction = null, ShapeEntry? Shape = null, double? RiseM = null, double? LengthM = null, string? Surroundings = null,
    double? ResistanceM2KW = null, double? RoughnessMm = null, IReadOnlyList<FittingEntry>? Fittings = null, double? DepositMm = null, string? Toward = null, string? Id = null);

/// <summary>A flue as entered.</summary>
/// <param name="Segments">Chain from the collar to the cap, 1..60.</param>
/// <param name="Cap">open, low-resistance or cowl; default open.</param>
/// <param name="Screen">Whether a spark or bird screen sits on top; default false.</param>
public sealed record FlueEntry(IReadOnlyList<SegmentEntry>? Segments = null, string? Cap = null, bool? Screen = null);
