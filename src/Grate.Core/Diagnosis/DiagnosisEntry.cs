using System.Text.Json;

namespace Grate.Core.Diagnosis;

/// <summary>A finding as told: in JSON true, false, a number in its own unit, or a condition word.</summary>
/// <param name="Yes">Whether it is so.</param>
/// <param name="Number">A number.</param>
/// <param name="Word">A condition word.</param>
[JsonConverter(typeof(FindingToldConverter))]
public sealed record FindingTold(bool? Yes = null, double? Number = null, string? Word = null)
{
    /// <summary>Whether it is more of a yes than of a no.</summary>
    /// <param name="finding">What it is about.</param>
    public bool Says(Finding finding) => Yes ?? (Number is { } number ? finding.DegreeOf(number) >= 0.5 : Word != Core.Word.Of(Condition.Sound));
}

internal sealed class FindingToldConverter : JsonConverter<FindingTold>
{
    public override FindingTold Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        switch (reader.TokenType)
        {
            case JsonTokenType.True or JsonTokenType.False:
                return new FindingTold(reader.GetBoolean());
            case JsonTokenType.Number:
                return new FindingTold(Number: reader.GetDouble());
            case JsonTokenType.String:
                return new FindingTold(Word: reader.GetString());
            default:
                reader.Skip();
                return new FindingTold();
        }
    }

    public override void Write(Utf8JsonWriter writer, FindingTold value, JsonSerializerOptions options)
    {
        if (value.Yes is { } yes)
            writer.WriteBooleanValue(yes);
        else if (value.Number is { } number)
            writer.WriteNumberValue(number);
        else
            writer.WriteStringValue(value.Word);
    }
}

/// <summary>How often a cause was confirmed.</summary>
/// <param name="Confirmed">Closed visits on which it was, 0..1 000 000.</param>
/// <param name="Applied">Closed visits on which it could have been.</param>
public sealed record ClosedVisits(int? Confirmed = null, int? Applied = null);

/// <summary>The question of POST /api/calculations/diagnosis.</summary>
/// <param name="Kind">steel, insert, zero-clearance, multi-fuel, masonry-heater or cookstove; needed.</param>
/// <param name="Catalytic">Whether it has a combustor; default no.</param>
/// <param name="Plus">Features ticked on by hand.</param>
/// <param name="Minus">Features ticked off.</param>
/// <param name="Findings">What was told and found, by the finding's word.</param>
/// <param name="Burning">Whether a fire burns now; default no.</param>
/// <param name="FireAllowed">Whether a fire may be lit; default yes.</param>
/// <param name="ClosedVisits">What was learned, by the cause's word; default nothing.</param>
/// <param name="Proposals">Whether the next tests are asked for; default yes.</param>
public sealed record DiagnosisEntry(string? Kind = null, bool? Catalytic = null, IReadOnlyList<string>? Plus = null, IReadOnlyList<string>? Minus = null, IReadOnlyDictionary<string, FindingTold>? Findings = null,
    bool? Burning = null, bool? FireAllowed = null, IReadOnlyDictionary<string, ClosedVisits?>? ClosedVisits = null, bool? Proposals = null)
{
    private const int MostFeatures = 30, MostVisits = 1_000_000;

    // A sound part is no finding, a worn one half of one (handbook 10 section 2).
    private static double? DegreeOf(Condition condition) => condition switch
    {
        Condition.Sound => 0,
        Condition.Wearing => 0.5,
        Condition.Spent or Condition.Unsafe => 1,
        _ => null,
    };

    /// <summary>The stove's space, or null with sentences in <paramref name="errors"/>.</summary>
    internal TroubleSpace? Space(EntryErrors errors, FirmTroubles table)
    {
        if (!Troubles.Kinds.Contains(Kind))
        {
            errors.Add("kind", Core.Word.OneOf("Kind", Kind, Troubles.Kinds));
            return null;
        }
        if (Catalytic == true && !Troubles.CatalyticKinds.Contains(Kind))
            errors.Add("catalytic", $"A combustor is had by {string.Join(", ", Troubles.CatalyticKinds)}; {Kind} was sent.");
        var features = Troubles.FeaturesOf(Kind!, Catalytic == true).ToHashSet();
        foreach (var (field, words, on) in new[] { ("plus", Plus, true), ("minus", Minus, false) })
        {
            foreach (var (word, i) in errors.Each(field, words, MostFeatures, "features"))
            {
                if (!Troubles.Features.Contains(word))
                    errors.Add($"{field}[{i}]", Core.Word.OneOf("Feature", word, Troubles.Features));
                else
                    _ = on ? features.Add(word) : features.Remove(word);
            }
        }
        return errors.Any ? null : Troubles.Of(features, table);
    }

    /// <summary>What is known, by place: how much of a yes; what was not seen is left out.</summary>
    internal SortedDictionary<int, double> Read(TroubleSpace space, EntryErrors errors)
    {
        var known = new SortedDictionary<int, double>();
        foreach (var (code, told) in Findings ?? new Dictionary<string, FindingTold>())
        {
            var (field, at) = ($"findings.{code}", space.IndexOf(code));
            if (at < 0)
                errors.Add(field, Troubles.Findings.Any(f => f.Code == code) ? $"“{code}” does not apply to this stove." : $"There is no finding “{code[..Math.Min(code.Length, 40)]}”.");
            else if (DegreeOf(space.Findings[at], told, field, errors) is { } degree)
                known[at] = degree;
        }
        return known;
    }

    // A look at a part can be answered by its condition; what is told, computed or read at a fire cannot.
    private static double? DegreeOf(Finding finding, FindingTold? told, string field, EntryErrors errors)
    {
        switch (told)
        {
            case { Yes: { } yes }:
                return yes ? 1 : 0;
            case { Number: { } number }:
                if (finding.Middle is null)
                    errors.Add(field, $"“{finding.Code}” takes no number: true or false{(finding.When == FindingWhen.Cold ? ", or a condition word" : "")}.");
                else if (!double.IsFinite(number))
                    errors.Add(field, $"“{finding.Code}” takes a finite number.");
                else
                    return finding.DegreeOf(number);
                return null;
            case { Word: { } word } when finding.When == FindingWhen.Cold:
                return errors.Need<Condition>(field, word, $"Condition of “{finding.Code}”") is { } condition ? DegreeOf(condition) : null;
            case { Word: not null }:
                errors.Add(field, $"“{finding.Code}” takes no condition word: true or false{(finding.Middle is null ? "" : ", or a number")}.");
                return null;
            default:
                errors.Add(field, $"“{finding.Code}” is true, false, a number or a condition word.");
                return null;
        }
    }

    /// <summary>How often each cause of the space is to be expected: prior = (50 p + confirmed)/(50 + applied).</summary>
    internal double[] Priors(TroubleSpace space, EntryErrors errors)
    {
        foreach (var (code, seen) in ClosedVisits ?? new Dictionary<string, ClosedVisits?>())
        {
            var field = $"closedVisits.{code}";
            if (!Troubles.Causes.Any(c => c.Code == code))
                errors.Add(field, $"There is no cause “{code[..Math.Min(code.Length, 40)]}”.");
            else if (seen is not { Confirmed: >= 0, Applied: >= 0 and <= MostVisits } || seen.Confirmed > seen.Applied)
                errors.Add(field, $"Closed visits: confirmed from 0 to applied, applied up to {MostVisits}.");
        }
        return [.. space.Causes.Select(c => ClosedVisits?.GetValueOrDefault(c.Code) is { Confirmed: { } confirmed, Applied: { } applied } ? Learned(c.Prior, confirmed, applied) : c.Prior)];
    }

    /// <summary>A prior that moves with what was confirmed: a table's .10 with 4 of 31 is 0.111.</summary>
    /// <param name="prior">The table's, 0..1.</param>
    /// <param name="confirmed">Closed visits on which it was.</param>
    /// <param name="applied">Closed visits on which it could have been.</param>
    public static double Learned(double prior, int confirmed, int applied)
    {
        const double weight = 50;
        return (weight * prior + confirmed) / (weight + applied);
    }
}
