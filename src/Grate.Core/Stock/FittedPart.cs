using Grate.Core.Visits;
using static Grate.Core.Sentence;

namespace Grate.Core.Stock;

/// <summary>A part on a stove as entered.</summary>
/// <param name="Id">UUIDv7 of the client: sent twice it is one.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Name">Where it sits, or what it is called: "door rope 12 mm"; up to 80 characters.</param>
/// <param name="Batch">Batch or serial number, up to 60 characters.</param>
/// <param name="FittedOn">Day it was fitted, within the last 60 years.</param>
/// <param name="WarrantyUntil">Last day of its warranty; null where it has none.</param>
public sealed record FittedEntry(Guid Id, [property: Words(typeof(StockKind))] string? Kind = null, string? Name = null, string? Batch = null, DateOnly? FittedOn = null, DateOnly? WarrantyUntil = null);

/// <summary>A part on a stove.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Name">Where it sits, or what it is called.</param>
/// <param name="Batch">Batch or serial number; empty where it bears none.</param>
/// <param name="FittedOn">Day it was fitted.</param>
/// <param name="WarrantyUntil">Last day of its warranty; null where it has none.</param>
/// <param name="GoneOn">Day it was taken out; null while it is in.</param>
public sealed record FittedPart(Guid Id, StockKind Kind, string Name, string Batch, DateOnly FittedOn, DateOnly? WarrantyUntil, DateOnly? GoneOn)
{
    /// <summary>Most characters of a batch or serial number.</summary>
    public const int LongestBatch = 60;

    private const int LongestName = 80, OldestYears = 60;

    /// <summary>A part as entered, or null with sentences in <paramref name="errors"/>.</summary>
    /// <param name="entry">The part.</param>
    /// <param name="today">Today at the firm's place.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static FittedPart? New(FittedEntry entry, DateOnly today, EntryErrors errors)
    {
        errors.CheckId("id", entry.Id, "A part");
        var kind = errors.Need<StockKind>("kind", entry.Kind, "Kind");
        errors.CheckText("name", entry.Name, "Name", LongestName, needed: true);
        errors.CheckText("batch", entry.Batch, "Batch or serial", LongestBatch);
        if (entry.FittedOn is not { } fitted || fitted > today || fitted < today.AddYears(-OldestYears))
            errors.Add("fittedOn", $"Fitted on a day between {today.AddYears(-OldestYears):yyyy-MM-dd} and today.");
        else if (entry.WarrantyUntil < fitted || entry.WarrantyUntil > fitted.AddYears(OldestYears))
            errors.Add("warrantyUntil", $"The warranty ends between {fitted:yyyy-MM-dd} and {OldestYears} years later.");
        return errors.Any ? null : new(entry.Id, kind!.Value, entry.Name!.Trim(), entry.Batch?.Trim() ?? "", entry.FittedOn!.Value, entry.WarrantyUntil, null);
    }
}

/// <summary>How far a part is through its life.</summary>
/// <param name="Name">What it is.</param>
/// <param name="FittedOn">Day it was fitted.</param>
/// <param name="EndsOn">Day to which its life is drawn: the usual one, or what the firm's own parts lived; null where nobody knows one.</param>
/// <param name="WarrantyUntil">Last day of its warranty.</param>
/// <param name="Share">Share of that life that is over, from 0; over 1 where it is past it.</param>
/// <param name="Part">The part of the drawing where it sits; empty where there is none.</param>
/// <param name="Sentence">In words.</param>
public sealed record LifeBar(string Name, DateOnly FittedOn, DateOnly? EndsOn, DateOnly? WarrantyUntil, double? Share, string Part, Sentence Sentence)
{
    /// <summary>Ropes and tapes last so long, usually.</summary>
    public static readonly Limit SealYears = Limit.Practice(4, "years", "handbook of the trade: 3 to 5 seasons");

    /// <summary>
    /// The bar of a part. A rope fitted on 1 November 2024, seen on 1 November 2026: half of the usual 4 years, until 1 November 2028.
    /// </summary>
    /// <param name="kind">What it is.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="fitted">Day it was fitted.</param>
    /// <param name="warranty">Last day of its warranty.</param>
    /// <param name="part">The part of the drawing.</param>
    /// <param name="learned">How long the firm's own last; null where too few ends are known to say.</param>
    /// <param name="today">Today.</param>
    /// <param name="byHours">When its hours of burning end it, as a visit reckoned; null where none did. It comes before any usual life.</param>
    public static LifeBar Of(StockKind kind, string name, DateOnly fitted, DateOnly? warranty, string part, LearnedLife? learned, DateOnly today, DateOnly? byHours = null)
    {
        const double daysInYear = 365.25;
        var ends = byHours > fitted ? byHours : learned is not null ? learned.EndOf(fitted).By : StockPiece.IsCut(kind) ? fitted.AddMonths((int)(12 * SealYears.Value)) : (DateOnly?)null;
        var share = ends is { } end ? (double)(today.DayNumber - fitted.DayNumber) / Math.Max(1, end.DayNumber - fitted.DayNumber) : (double?)null;
        var age = (today.DayNumber - fitted.DayNumber) / daysInYear;
        var covered = warranty is not { } until ? "" : until >= today ? $"; under warranty until {until:d MMM yyyy}" : $"; its warranty ended on {until:d MMM yyyy}";
        var life = ends is not { } e ? "" : $", {(share > 1 ? "past" : "of")} {(byHours > fitted ? "its life by hours" : learned is null ? "a usual life" : "what half of the firm's last")}, to {e:d MMM yyyy}";
        return new(name, fitted, ends, warranty, share, part, Say(name, ": ", Computed($"{age:0.0} years"), $" old{life}{covered}."));
    }
}
