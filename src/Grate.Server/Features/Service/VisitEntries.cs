using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>What may be entered in a visit, and how it is written down.</summary>
internal static class VisitEntries
{
    public const string ArriveStep = "arrive";
    public const string HotTestStep = "hot-test";
    public const string ColdChecksStep = "cold-checks";
    public const string SweepStep = "sweep";
    public const string LastStep = "next";

    private static readonly string[] _statuses = ["open", "done", "skipped"];

    /// <summary>Refuses a step that cannot be saved.</summary>
    public static void Check(string step, StepSave save, EntryErrors errors)
    {
        if (VisitSteps.Find(step) is null)
            errors.Add("step", $"“{step[..Math.Min(step.Length, 40)]}” is none of the twelve steps.");
        if (!_statuses.Contains(save.Status))
            errors.Add("status", "A step is open, done or skipped.");
        if (save.Status == "skipped" && save.Reason.Trim().Length == 0)
            errors.Add("reason", "Say why this step is skipped.");
        if (save.Reason.Length > 500)
            errors.Add("reason", "A reason has at most 500 characters.");
        if (save.Note.Length > 5000)
            errors.Add("note", "A note has at most 5 000 characters.");
        CheckSave(save.SaveId, save.BaseVersion, errors);
        if (save.HotTest is not null && step != HotTestStep)
            errors.Add("hotTest", "Only the hot test takes hot readings.");
        if (save.ColdChecks is not null && step != ColdChecksStep)
            errors.Add("coldChecks", "Only the cold checks take these entries.");
        if (save.Sweep is not null && step != SweepStep)
            errors.Add("sweep", "Deposits and the top of the chimney belong to the sweep.");
        if (save.Wood is not null && step != ArriveStep)
            errors.Add("wood", "The household's wood belongs to the arrival.");
        save.HotTest?.Check(errors);
    }

    /// <summary>Refuses a finding that cannot be saved.</summary>
    public static void Check(Guid id, FindingSave save, EntryErrors errors)
    {
        if (id.Version != 7)
            errors.Add("id", "A finding's id is a UUIDv7 made by the client.");
        CheckPart(save.Part, errors);
        if (VisitSteps.PartName(save.Part) is null)
            errors.Add("part", $"“{save.Part[..Math.Min(save.Part.Length, 40)]}” is not a part of any step.");
        if (Word.Find<Condition>(save.Condition) is not { } condition)
            errors.Add("condition", $"A condition is one of {string.Join(", ", Word.All<Condition>())}.");
        else if (condition == Condition.NotSeen && save.Note.Trim().Length == 0)
            errors.Add("note", "Say why it was not seen.");
        else if (condition == Condition.Unsafe && SafetyStops.Find(save.StopCode) is null)
            errors.Add("stopCode", "Say what makes it unsafe.");
        if (save.Note.Length > 2000)
            errors.Add("note", "A note has at most 2 000 characters.");
        CheckSave(save.SaveId, save.BaseVersion, errors);
    }

    /// <summary>Stops that follow from numbers are not marked or taken back by hand.</summary>
    public static void CheckPart(string part, EntryErrors errors)
    {
        if (SafetyStops.Computed.ContainsKey(part))
            errors.Add("part", $"This stop rests on the entries of the {SafetyStops.Computed[part]}: correct those.");
    }

    /// <summary>Entries as stored: a step has entries of one kind.</summary>
    public static string? Written(StepSave save)
    {
        var entries = (object?)save.HotTest ?? (object?)save.ColdChecks ?? (object?)save.Sweep ?? save.Wood;
        return entries is null ? null : JsonSerializer.Serialize(entries, entries.GetType(), Json.Options);
    }

    /// <summary>A stored step as answered.</summary>
    public static SavedStep Saved(StepRow row)
    {
        T? Entries<T>(string step) where T : class =>
            row.Step == step && row.Entries is not null ? JsonSerializer.Deserialize<T>(row.Entries, Json.Options) : null;
        return new SavedStep(row.Status, row.Reason, row.Note,
            Entries<HotTest>(HotTestStep), Entries<ColdChecks>(ColdChecksStep), Entries<SweepStation>(SweepStep), Entries<WoodRecord>(ArriveStep),
            row.Computed is null ? [] : JsonSerializer.Deserialize<Sentence[]>(row.Computed, Json.Options)!,
            row.Version, row.SavedAt, row.SavedBy);
    }

    /// <summary>What the CO in the room means.</summary>
    public static string? CoMeaning(double? ppm) => ppm is not { } value ? null : SafetyStops.Judge(value) switch
    {
        RoomCo.EverybodyOut => $"{value:0} ppm of CO in the room: everybody out.",
        RoomCo.StopAndAir => $"{value:0} ppm of CO in the room: stop the test and air.",
        RoomCo.FindOutWhy => $"{value:0} ppm of CO in the room is more than an ordinary room holds: find out why.",
        _ => $"{value:0} ppm of CO in the room is ordinary.",
    };

    /// <summary>
    /// Stops that follow from numbers: a draft below 0 or CO from 35 ppm in the hot test, glaze or 6 mm in the sweep. Each is
    /// kept as a finding of its own while the entries say so, and taken back when they no longer do.
    /// </summary>
    /// <returns>Whether a stop came, went or became another.</returns>
    public static async Task<bool> KeepComputedStopAsync(VisitStore visits, Guid visitId, string step, StepSave save, Guid by, DateTime at)
    {
        var (part, stop, note) = step switch
        {
            HotTestStep => (SafetyStops.HotTest, HotTestStop(save.HotTest), save.HotTest?.CoPpm >= SafetyStops.CoStop.Value
                ? CoMeaning(save.HotTest!.CoPpm)! : "The draft was below 0: smoke comes into the room."),
            SweepStep => (SafetyStops.Deposits, save.Sweep?.Record?.StopCode(), "By the deposits recorded in the sweep."),
            _ => (null, null, ""),
        };
        if (part is null)
            return false;
        var stored = (await visits.FindingsAsync(visitId)).FirstOrDefault(f => f.Part == part);
        if (stop is not null)
        {
            await visits.SaveFindingAsync(new FindingRow(stored?.Id ?? Guid.CreateVersion7(), visitId, part, Word.Of(Condition.Unsafe), note, null,
                stop, stored?.Version ?? 0, Guid.CreateVersion7(), default, ""), by, at);
        }
        else if (stored is not null)
            await visits.DropFindingAsync(visitId, part);
        return stored?.StopCode != stop;
    }

    private static string? HotTestStop(HotTest? test) =>
        test?.CoPpm >= SafetyStops.CoStop.Value ? "room-co" : test?.Reversed == true ? "spillage" : null;

    private static void CheckSave(Guid saveId, int baseVersion, EntryErrors errors)
    {
        if (saveId.Version != 7)
            errors.Add("saveId", "A save's id is a UUIDv7 made by the client.");
        if (baseVersion < 0)
            errors.Add("baseVersion", "The version a save starts from is 0 or more.");
    }
}
