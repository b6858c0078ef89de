using System.Text.Json;
using Grate.Core;
using Grate.Core.Visits;

namespace Grate.Store;

/// <summary>A stop of a round.</summary>
public sealed record RoundStop(
    Guid VisitId, Guid ApplianceId, Guid TechnicianId, string Technician, DateTimeOffset PlannedStart, DateTimeOffset PlannedEnd,
    string Purpose, string Complaint, string State, int PlanVersion, string Customer, string Street, string Place,
    double Latitude, double Longitude, string Kind, bool Combustor, string Model, int Year, int StepsDone, int Stops, string Asked, Guid[] Helpers, string[] HelperNames);

/// <summary>A visit's own row.</summary>
public sealed record VisitRow(
    Guid Id, Guid ApplianceId, Guid FlueVersionId, Guid TechnicianId, string Technician, DateTimeOffset PlannedStart, DateTimeOffset PlannedEnd,
    string Purpose, string Complaint, string State, DateTimeOffset? SignedAt, string? SignedBy, DateOnly? NextInspection, bool Inspects, string LeftOut,
    Guid[]? Helpers = null);

/// <summary>A step as saved.</summary>
public sealed record StepRow(
    Guid VisitId, string Step, string Status, string Reason, string Note, int Version, Guid SaveId, DateTimeOffset SavedAt, string SavedBy);

/// <summary>A station as saved: what was entered, and what was concluded from it then; stops as JSON.</summary>
public sealed record StationRow(
    Guid VisitId, string Step, string Station, int Schema, string Entry, string? Answer, string Sentences, string Stops,
    string? BlocksSigning, string RulesVersion, int Version, Guid SaveId, DateTimeOffset SavedAt, string SavedBy)
{
    /// <summary>What a station comes to by today's rules, as it is written.</summary>
    public static StationRow Of(Guid visitId, string step, IStation station, StationOutcome kept, int version, Guid saveId, DateTimeOffset at, string by) =>
        new(visitId, step, station.Code, station.Schema, kept.Entry, kept.Answer, JsonSerializer.Serialize([.. kept.Sentences], CoreJson.Default.SentenceArray),
            JsonSerializer.Serialize([.. kept.Stops], CoreJson.Default.ComputedStopArray), kept.BlocksSigning, Rules.Version, version, saveId, at, by);
}

/// <summary>A finding as saved.</summary>
public sealed record FindingRow(
    Guid Id, Guid VisitId, string Step, string Part, string Condition, string Note, DateOnly? LookAgain, string? StopCode,
    int Version, Guid SaveId, DateTimeOffset SavedAt, string SavedBy);

/// <summary>A correction or addition to a signed visit.</summary>
public sealed record AdditionRow(Guid Id, DateTimeOffset WrittenAt, string WrittenBy, string Text);

/// <summary>A stop on a stove: one opening. It rests on a station's numbers or on the mark of a part; the one it opens again was cleared before.</summary>
public sealed record StopRow(
    Guid Id, Guid ApplianceId, Guid VisitId, string Step, string? Station, string? Part, string Code, string Why, DateTimeOffset SetAt, string SetBy,
    DateTimeOffset? ClearedAt, string? ClearedBy, string? ClearedWhat, string? ClearedRetest, Guid? OpensAgain);

/// <summary>A visit to plan, with the steps it does not need.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Start">UTC.</param>
/// <param name="End">UTC.</param>
/// <param name="Purpose">What for.</param>
/// <param name="Inspects">Whether it is an inspection.</param>
/// <param name="Skipped">Steps that it does not need.</param>
/// <param name="SkipReason">Why not.</param>
/// <param name="Complaint">What is wrong, in the household's words.</param>
public sealed record VisitPlan(Guid Id, Guid ApplianceId, Guid TechnicianId, DateTimeOffset Start, DateTimeOffset End, string Purpose, bool Inspects,
    IReadOnlyList<string> Skipped, string SkipReason, string Complaint = "");

/// <summary>What became of a plan.</summary>
public enum PlanState
{
    /// <summary>Planned, or the same visit had been planned before.</summary>
    Planned,

    /// <summary>The technician is elsewhere then.</summary>
    Taken,

    /// <summary>The stove has an open visit already.</summary>
    PlannedBefore,

    /// <summary>There is no such stove, or it has no flue.</summary>
    NoStove,

    /// <summary>The id is that of another visit.</summary>
    Reused,
}

/// <summary>What became of a save.</summary>
public enum SaveState
{
    /// <summary>Saved, or the same save had been saved before.</summary>
    Saved,

    /// <summary>Someone saved another version in between; nothing was changed.</summary>
    Stale,

    /// <summary>The visit is signed; nothing was changed.</summary>
    Signed,

    /// <summary>The id stands for something else already; nothing was changed.</summary>
    Reused,
}

/// <summary>What became of a save, with the version that is stored now.</summary>
/// <param name="State">Outcome.</param>
/// <param name="Stored">The stored version; null if there is none.</param>
/// <param name="StopsChanged">Whether a stop came, went or became another.</param>
public sealed record SaveOutcome<T>(SaveState State, T? Stored, bool StopsChanged = false)
    where T : class;

/// <summary>A visit with everything that its answers rest on.</summary>
/// <param name="Visit">Its row.</param>
/// <param name="Customer">Whose house it is.</param>
/// <param name="Firm">The firm.</param>
/// <param name="Context">What the answers rest on; today is the visit's own day until it is set.</param>
public sealed record VisitRecord(VisitRow Visit, Customer Customer, Firm Firm, VisitContext Context);
