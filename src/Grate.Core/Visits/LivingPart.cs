namespace Grate.Core.Visits;

/// <summary>Parts whose lives a firm learns.</summary>
[JsonConverter(typeof(WordConverter<LivingPart>))]
public enum LivingPart
{
    /// <summary>Rope and tape of doors and glass.</summary>
    [Said("Rope and tape")]
    Seal,

    /// <summary>Bricks.</summary>
    [Said("Bricks")]
    Brick,

    /// <summary>Combustors.</summary>
    [Said("Combustors")]
    Combustor,
}

/// <summary>How long a firm's own parts last, where enough of them came to their end.</summary>
/// <param name="QuarterYears">When a quarter of them are gone.</param>
/// <param name="HalfYears">When half of them are.</param>
public sealed record LearnedLife(double QuarterYears, double HalfYears)
{
    private const double DaysInYear = 365.25;

    /// <summary>When the first ones of those fitted on a day go, and when half of them are gone. Of 1 October 2024, with 2 and 3.5 years: 1 October 2026 and 1 April 2028.</summary>
    public (DateOnly From, DateOnly By) EndOf(DateOnly fitted) => (fitted.AddDays((int)Math.Round(QuarterYears * DaysInYear)), fitted.AddDays((int)Math.Round(HalfYears * DaysInYear)));
}
