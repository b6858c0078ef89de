using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>A step of a visit: what it is, and what was saved in it.</summary>
/// <param name="Number">1..12.</param>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Guide">What is done here.</param>
/// <param name="Caution">What to beware of, or none.</param>
/// <param name="Parts">Parts of this stove to mark.</param>
/// <param name="Saved">What was saved; null before the first save.</param>
/// <param name="EarlierNote">The note of the visit before.</param>
public sealed record StepAnswer(
    int Number, string Code, string Name, string Guide, string? Caution, IReadOnlyList<StepPart> Parts, SavedStep? Saved, string EarlierNote);

/// <summary>Entries of the sweep station.</summary>
/// <param name="Top">The top of the chimney.</param>
/// <param name="Record">Deposits and the sweep.</param>
public sealed record SweepStation(TopCheck? Top = null, SweepRecord? Record = null);

/// <summary>A step as saved.</summary>
/// <param name="Status">open, done or skipped.</param>
/// <param name="Reason">Why it was skipped.</param>
/// <param name="Note">Notes.</param>
/// <param name="HotTest">Entries of the hot test.</param>
/// <param name="ColdChecks">Entries of the cold checks.</param>
/// <param name="Sweep">Entries of the sweep.</param>
/// <param name="Wood">The household's wood, found on arrival.</param>
/// <param name="Concluded">What was concluded when it was saved, in words.</param>
/// <param name="Version">Version, from 1.</param>
/// <param name="SavedAt">When.</param>
/// <param name="SavedBy">Who.</param>
public sealed record SavedStep(string Status, string Reason, string Note, HotTest? HotTest, ColdChecks? ColdChecks, SweepStation? Sweep, WoodRecord? Wood,
    IReadOnlyList<Sentence> Concluded, int Version, DateTime SavedAt, string SavedBy);

/// <summary>A step to save.</summary>
/// <param name="SaveId">UUIDv7 of this save, made by the client: the same save sent twice is one.</param>
/// <param name="BaseVersion">Version it started from, 0 for none.</param>
/// <param name="Status">open, done or skipped.</param>
/// <param name="Reason">Why it is skipped, up to 500 characters.</param>
/// <param name="Note">Notes, up to 5 000 characters.</param>
/// <param name="HotTest">Entries of the hot test.</param>
/// <param name="ColdChecks">Entries of the cold checks.</param>
/// <param name="Sweep">Entries of the sweep.</param>
/// <param name="Wood">The household's wood, found on arrival.</param>
public sealed record StepSave(Guid SaveId, int BaseVersion, string Status, string Reason, string Note,
    HotTest? HotTest = null, ColdChecks? ColdChecks = null, SweepStation? Sweep = null, WoodRecord? Wood = null);

/// <summary>A finding to save.</summary>
/// <param name="SaveId">UUIDv7 of this save.</param>
/// <param name="BaseVersion">Version it started from, 0 for none.</param>
/// <param name="Part">Part.</param>
/// <param name="Condition">sound, wearing, spent, unsafe or not-seen.</param>
/// <param name="Note">Notes, up to 2 000 characters; the reason where not seen.</param>
/// <param name="LookAgain">Day to look again, for a wearing part.</param>
/// <param name="StopCode">Reason of the stop, where unsafe.</param>
public sealed record FindingSave(
    Guid SaveId, int BaseVersion, string Part, string Condition, string Note, DateOnly? LookAgain = null, string? StopCode = null);

/// <summary>A computed reading of a visit, as concluded when it was saved.</summary>
/// <param name="Level">low, normal or high.</param>
/// <param name="DraftPa">Read, Pa.</param>
/// <param name="Entered">Everything entered with it.</param>
/// <param name="Computed">The computed result then.</param>
/// <param name="Verdict">What it meant.</param>
/// <param name="RulesVersion">Version of the rules.</param>
/// <param name="NowExpectedPa">What today's rules expect for the same entries, where they differ by 0.05 Pa or more.</param>
public sealed record VisitReading(
    string Level, double DraftPa, HotReading Entered, DraftAnswer Computed, string Verdict, string RulesVersion, double? NowExpectedPa);

/// <summary>The visit before, to hold the new entries against.</summary>
/// <param name="Visit">Its row.</param>
/// <param name="Findings">Its findings.</param>
/// <param name="Readings">Its readings.</param>
public sealed record EarlierVisit(VisitRow Visit, IReadOnlyList<FindingRow> Findings, IReadOnlyList<VisitReading> Readings);

/// <summary>A visit as one document.</summary>
/// <param name="Visit">Its row.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Outline">Its house.</param>
/// <param name="Flue">The flue that stood there.</param>
/// <param name="Layout">How it stands in the house.</param>
/// <param name="Steps">The twelve steps.</param>
/// <param name="Findings">Findings.</param>
/// <param name="Readings">Readings.</param>
/// <param name="CoMeaning">What the CO in the room means, in a sentence; null if not read.</param>
/// <param name="Earlier">The visit before.</param>
/// <param name="Stops">Open stops of the stove.</param>
/// <param name="Additions">Additions after signing.</param>
/// <param name="ProposedInspection">Next inspection if signed today.</param>
/// <param name="Due">What is due for the stove, by the day it is wanted.</param>
/// <param name="MayWrite">Whether the signed-in person may write in it.</param>
public sealed record VisitAnswer(
    VisitRow Visit, Stove Stove, HouseOutline Outline, FlueVersion Flue, FlueLayout Layout, IReadOnlyList<StepAnswer> Steps, IReadOnlyList<FindingRow> Findings,
    IReadOnlyList<VisitReading> Readings, string? CoMeaning, EarlierVisit? Earlier, IReadOnlyList<StopNotice> Stops, IReadOnlyList<AdditionRow> Additions,
    DateOnly ProposedInspection, IReadOnlyList<DueTask> Due, bool MayWrite);

/// <summary>An addition to a signed visit.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="Text">1 to 5 000 characters.</param>
public sealed record AdditionEntry(Guid Id, string Text);
