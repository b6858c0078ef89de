namespace Grate.Core.Flue;

/// <summary>Turns a flue as entered into the chain of the model; refuses what cannot be built.</summary>
public static class FlueReading
{
    private const double LeastFreeM = 0.02;

    /// <summary>A stored flue as the model reads it.</summary>
    /// <exception cref="InvalidOperationException">The stored chain is not readable; the checks at its save forbid that.</exception>
    public static FlueSystem Stored(FlueVersion version)
    {
        var errors = new EntryErrors();
        return Read(version.Flue, errors, new Assumptions())
            ?? throw new InvalidOperationException($"Flue version {version.Id}: {string.Join(" ", errors.ByField.SelectMany(e => e.Value))}");
    }

    /// <summary>Reads a flue.</summary>
    /// <returns>The chain, or null with sentences in <paramref name="errors"/>.</returns>
    public static FlueSystem? Read(FlueEntry? entry, EntryErrors errors, Assumptions assumed)
    {
        var segments = entry?.Segments ?? [];
        if (segments.Count == 0 || segments.Count > FlueRanges.MostSegments)
        {
            errors.Add("flue.segments", segments.Count == 0
                ? $"The flue needs at least one segment, from the collar to the cap (1 to {FlueRanges.MostSegments})."
                : $"A flue has at most {FlueRanges.MostSegments} segments; {segments.Count} were sent.");
            return null;
        }

        var cap = Cap.Find(entry!.Cap ?? Cap.Open.Code);
        if (entry.Cap is null)
            assumed.Note("flue.cap", Cap.Open.Code, Mark.Assumption, "an open top until a cap is entered");
        else if (cap is null)
            errors.Add("flue.cap", Word.OneOf("Cap", entry.Cap, Cap.All.Select(c => c.Code)));
        var screen = assumed.Or(entry.Screen, "flue.screen", false, "no screen until one is entered");

        var read = segments.Select((s, i) => Segment(s, $"flue.segments[{i}]", i, errors, assumed)).ToList();
        if (!errors.Any && read.Sum(s => s!.RiseM) <= 0)
            errors.Add("flue.segments", "The flue must rise: the sum of all rises is 0 m.");
        if (!errors.Any && read!.Sum(s => s!.RiseM) <= 0)
            errors.Add("flue.segments", "In all a flue rises: its pieces come to no height.");
        return errors.Any ? null : new FlueSystem(read!, cap!, screen);
    }

    private static Segment? Segment(SegmentEntry? entry, string path, int index, EntryErrors errors, Assumptions assumed)
    {
        if (entry is null)
        {
            errors.Add(path, "This segment is empty: construction, shape, rise, length and surroundings are needed.");
            return null;
        }
        var construction = Construction.Find(entry.Construction);
        if (construction is null)
            errors.Add($"{path}.construction", Word.OneOf("Construction", entry.Construction, Construction.All.Select(c => c.Code)));
        var place = Word.Find<SegmentPlace>(entry.Surroundings);
        if (place is null)
            errors.Add($"{path}.surroundings", Word.OneOf("Surroundings", entry.Surroundings, Word.All<SegmentPlace>()));

        if (entry.Toward is not null && Word.Find<Side>(entry.Toward) is null)
            errors.Add($"{path}.toward", Word.OneOf("Toward", entry.Toward, Word.All<Side>()));

        var section = Section(entry.Shape, $"{path}.shape", errors);
        var lengthRead = errors.Need($"{path}.lengthM", entry.LengthM, FlueRanges.Length);
        // One that falls is wrong, and is there: it is recorded and judged.
        if (errors.Need($"{path}.riseM", entry.RiseM, FlueRanges.Rise) && lengthRead && Math.Abs(entry.RiseM!.Value) > entry.LengthM)
            errors.Add($"{path}.riseM", $"Rise cannot be more than the length: {entry.RiseM:0.##} m of rise in {entry.LengthM:0.##} m.");
        errors.Check($"{path}.resistanceM2KW", entry.ResistanceM2KW, FlueRanges.Resistance);
        errors.Check($"{path}.roughnessMm", entry.RoughnessMm / 1000, FlueRanges.Roughness);
        if (errors.Check($"{path}.depositMm", entry.DepositMm / 1000, FlueRanges.Deposit)
            && section is not null)
        {
            RefuseTooThick($"{path}.depositMm", entry.DepositMm!.Value, section, errors);
        }
        var fittings = Fittings(entry.Fittings ?? [], $"{path}.fittings", errors);
        if (construction is null || section is null || errors.Any)
            return null;
        var label = entry.Label ?? $"segment {index + 1}";
        return new Segment(
            label, construction, section, entry.RiseM!.Value, entry.LengthM!.Value, place!.Value,
            assumed.Or(entry.ResistanceM2KW, $"{path}.resistanceM2KW", construction.ResistanceM2KW),
            assumed.Or(entry.RoughnessMm, $"{path}.roughnessMm", construction.RoughnessMm),
            fittings,
            assumed.Or(entry.DepositMm, $"{path}.depositMm", FlueLimits.Deposit),
            Word.Find<Side>(entry.Toward) ?? Side.Right)
        { Id = entry.Id ?? label };
    }

    private static CrossSection? Section(ShapeEntry? shape, string path, EntryErrors errors)
    {
        switch (shape?.Kind)
        {
            case "round" when shape.WidthM is not null || shape.DepthM is not null:
                errors.Add(shape.WidthM is not null ? $"{path}.widthM" : $"{path}.depthM", "A round section has a diameter alone: take width and depth out, or call it rectangular.");
                return null;
            case "rectangular" when shape.DiameterM is not null:
                errors.Add($"{path}.diameterM", "A rectangular section has width and depth alone: take the diameter out, or call it round.");
                return null;
            case "round":
                return errors.Need($"{path}.diameterM", shape.DiameterM, FlueRanges.Bore) ? new Round(shape.DiameterM!.Value) : null;
            case "rectangular":
                return errors.Need($"{path}.widthM", shape.WidthM, FlueRanges.Bore) & errors.Need($"{path}.depthM", shape.DepthM, FlueRanges.Bore)
                    ? new Rectangular(shape.WidthM!.Value, shape.DepthM!.Value) : null;
            default:
                errors.Add($"{path}.kind", Word.OneOf("Shape", shape?.Kind, ["round", "rectangular"]));
                return null;
        }
    }

    private static List<Fitting> Fittings(IReadOnlyList<FittingEntry> entries, string path, EntryErrors errors)
    {
        if (entries.Count > FlueRanges.MostFittings)
            errors.Add(path, $"A segment has at most {FlueRanges.MostFittings} fittings; {entries.Count} were sent.");
        var fittings = new List<Fitting>();
        foreach (var (entry, i) in entries.Take(FlueRanges.MostFittings).Select((f, i) => (f, i)))
        {
            if (entry?.Zeta is { } zeta)
            {
                if (errors.Check($"{path}[{i}].zeta", zeta, FlueRanges.Zeta))
                    fittings.Add(Fitting.Custom(zeta, entry.Label));
            }
            else if (Fitting.Find(entry?.Code) is { } fitting)
                fittings.Add(fitting);
            else
                errors.Add($"{path}[{i}]", Word.OneOf("Fitting", entry?.Code, Fitting.All.Select(f => f.Code)) + " A fitting of its own is { \"zeta\", \"label\" }.");
        }
        return fittings;
    }

    internal static void RefuseTooThick(string field, double depositMm, CrossSection section, EntryErrors errors)
    {
        if (section.NarrowestM - depositMm / 500 < LeastFreeM)
            errors.Add(field, $"A deposit of {depositMm:0.##} mm leaves less than 20 mm free in {section.NarrowestM * 1000:0} mm.");
    }
}
