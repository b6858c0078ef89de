using System.Text.Json;
using Grate.Core;
using Grate.Core.Section;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Server.Features.Service;
using Grate.Store;

namespace Grate.Server.Features.Visits;

/// <summary>A station as kept: what was entered, and what was concluded from it then.</summary>
/// <param name="Entry">The entry in today's shape.</param>
/// <param name="Answer">The answer; null where it is of an older shape.</param>
/// <param name="Sentences">What was said then.</param>
/// <param name="Blocks">Tables for the report.</param>
/// <param name="Now">What today's rules say, where they come to something else; null where they agree.</param>
/// <param name="RulesVersion">Version of the rules then.</param>
/// <param name="Version">Version, from 1.</param>
/// <param name="SaveId">The save that is stored.</param>
/// <param name="SavedAt">When.</param>
/// <param name="SavedBy">Who.</param>
public sealed record KeptStation(JsonElement Entry, JsonElement? Answer, IReadOnlyList<Sentence> Sentences, IReadOnlyList<ReportBlock> Blocks, IReadOnlyList<Sentence>? Now,
    string RulesVersion, int Version, Guid SaveId, DateTimeOffset SavedAt, string SavedBy);

/// <summary>A station of a step.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="AgainIn">A later step in which it is shown once more, or none.</param>
/// <param name="Saved">As kept; null before the first save.</param>
/// <param name="Earlier">Entry of the visit before, in today's shape; null where there was none.</param>
public sealed record StationAnswer(string Code, string Name, string? AgainIn, KeptStation? Saved, JsonElement? Earlier);

/// <summary>A step of a visit: what it is, and what was saved in it.</summary>
/// <param name="Number">1..12.</param>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Guide">What is done here.</param>
/// <param name="Caution">What to beware of, or none.</param>
/// <param name="Marks">Parts of this stove to mark.</param>
/// <param name="Stations">Its stations.</param>
/// <param name="Saved">What was saved; null before the first save.</param>
/// <param name="EarlierNote">The note of the visit before.</param>
public sealed record StepAnswer(int Number, string Code, string Name, string Guide, string? Caution, IReadOnlyList<PartMark> Marks,
    IReadOnlyList<StationAnswer> Stations, StepRow? Saved, string EarlierNote);

/// <summary>A station to save.</summary>
/// <param name="SaveId">UUIDv7 of this save, made by the client: the same save sent twice is one.</param>
/// <param name="BaseVersion">Version it started from, 0 for none.</param>
/// <param name="Entry">The entry.</param>
public sealed record StationSave<TEntry>(Guid SaveId, int BaseVersion, TEntry Entry);

/// <summary>A station as saved.</summary>
/// <param name="Entry">The entry.</param>
/// <param name="Answer">What follows; null where it is of an older shape.</param>
/// <param name="Version">Version, from 1.</param>
/// <param name="SaveId">The save that is stored: a browser knows its own by it.</param>
/// <param name="SavedAt">When.</param>
/// <param name="SavedBy">Who.</param>
public sealed record SavedStation<TEntry, TAnswer>(TEntry Entry, TAnswer? Answer, int Version, Guid SaveId, DateTimeOffset SavedAt, string SavedBy)
    where TAnswer : class;

/// <summary>The visit before, to hold the new entries against.</summary>
/// <param name="Day">Its day.</param>
/// <param name="Findings">Its findings.</param>
/// <param name="Photos">Its photos.</param>
public sealed record EarlierAnswer(DateOnly Day, IReadOnlyList<FindingRow> Findings, IReadOnlyList<PhotoRow> Photos);

/// <summary>A visit's row, with its day.</summary>
/// <param name="Row">The row.</param>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="SignedOn">Day it was signed; null while it is open.</param>
/// <param name="LeftOut">Why something was left out when it was signed.</param>
public sealed record VisitHead(VisitRow Row, DateOnly Day, DateOnly? SignedOn, IReadOnlyDictionary<string, string> LeftOut)
{
    /// <summary>A row with its days.</summary>
    public static VisitHead Of(VisitRow row, Firm firm) => new(row, firm.Day(row.PlannedStart), row.SignedAt is { } signed ? firm.Day(signed) : null,
        JsonSerializer.Deserialize<Dictionary<string, string>>(row.LeftOut)!);
}

/// <summary>A visit as one document.</summary>
/// <param name="Visit">Its row.</param>
/// <param name="Firm">The firm's name.</param>
/// <param name="Customer">Whose house it is.</param>
/// <param name="House">The house.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Section">The stove cut open.</param>
/// <param name="Outline">Its house as drawn.</param>
/// <param name="Flue">The flue that stood there.</param>
/// <param name="Layout">How it stands in the house.</param>
/// <param name="Steps">The twelve steps.</param>
/// <param name="Findings">Findings.</param>
/// <param name="Photos">Photos, in the order they were taken.</param>
/// <param name="Earlier">The visit before.</param>
/// <param name="Stops">Stops of the stove that stand; of a signed visit those that it left standing.</param>
/// <param name="ClearedSince">Stops that a signed visit left standing and that were cleared since.</param>
/// <param name="Additions">Additions after signing.</param>
/// <param name="ProposedInspection">Next inspection if signed today; null where nobody knows of one, and this visit is none.</param>
/// <param name="Words">The visit's word on each part: one, however many steps looked at it.</param>
/// <param name="NotChecked">What of flue, door and draft it did not look at, in a sentence; null where it looked at all three.</param>
/// <param name="Inspection">Whether it inspects, and looked at flue and door: else its date stays where it was.</param>
/// <param name="Contact">How the firm is reached.</param>
/// <param name="Due">What is due for the stove: stops first, then by the day it is wanted.</param>
/// <param name="Dates">What will be due once it is signed as it stands, or was due from then on: every date that was just computed, with its reason.</param>
/// <param name="Van">What the van needs.</param>
/// <param name="Signing">What stands in the way of signing; null once it is signed.</param>
/// <param name="Seal">The seal of a signed visit; null while it is open.</param>
/// <param name="MayWrite">Whether the signed-in person may write in it.</param>
public sealed record VisitAnswer(VisitHead Visit, string Firm, Customer Customer, House House, Stove Stove, StoveSection Section, HouseOutline Outline, FlueVersion Flue, FlueLayout Layout,
    IReadOnlyList<StepAnswer> Steps, IReadOnlyList<FindingRow> Findings, IReadOnlyList<PhotoRow> Photos, EarlierAnswer? Earlier, IReadOnlyList<StopNotice> Stops, IReadOnlyList<StopNotice> ClearedSince, IReadOnlyList<AdditionRow> Additions,
    DateOnly? ProposedInspection, IReadOnlyList<PartFound> Words, string? NotChecked, bool Inspection, FirmContact Contact, IReadOnlyList<DueTask> Due, IReadOnlyList<DueTask> Dates, IReadOnlyList<VanItem> Van, Signing? Signing, SealAnswer? Seal, bool MayWrite);

/// <summary>The seal of a signed visit: it cannot be changed unnoticed.</summary>
/// <param name="Number">Which of the stove's signed visits it is, from 1.</param>
/// <param name="Hash">SHA-256 over what it showed and the seal of the visit before, 64 hexadecimal digits.</param>
public sealed record SealAnswer(int Number, string Hash);

/// <summary>A signature.</summary>
/// <param name="Confirmed">Whether it was asked once more: signing is final.</param>
/// <param name="Reasons">Why something that is missing is left out, by its code.</param>
public sealed record SignEntry(bool Confirmed = false, IReadOnlyDictionary<string, string>? Reasons = null);

/// <summary>An addition to a signed visit.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="Text">1 to 5 000 characters.</param>
public sealed record AdditionEntry(Guid Id, string Text);
