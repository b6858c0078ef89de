using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>What may be entered in a visit, and how it is written down.</summary>
internal static class VisitEntries
{
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
        if (save.Top is not null && step != SweepStep)
            errors.Add("top", "The top of the chimney belongs to the sweep.");
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

    /// <summary>The hot test's own stop follows its entries; it is not marked or taken back by hand.</summary>
    public static void CheckPart(string part, EntryErrors errors)
    {
        if (part == SafetyStops.HotTest)
            errors.Add("part", "This stop rests on the entries of the hot test: correct those.");
    }

    /// <summary>Entries as stored: a step has entries of one kind.</summary>
    public static string? Written(StepSave save)
    {
        var entries = (object?)save.HotTest ?? (object?)save.ColdChecks ?? save.Top;
        return entries is null ? null : JsonSerializer.Serialize(entries, entries.GetType(), Json.Options);
    }

    /// <summary>A stored step as answered.</summary>
    public static SavedStep Saved(StepRow row)
    {
        T? Entries<T>(string step) where T : class =>
            row.Step == step && row.Entries is not null ? JsonSerializer.Deserialize<T>(row.Entries, Json.Options) : null;
        return new SavedStep(row.Status, row.Reason, row.Note,
            Entries<HotTest>(HotTestStep), Entries<ColdChecks>(ColdChecksStep), Entries<TopCheck>(SweepStep),
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
    /// A draft below 0 or CO from 35 ppm is a stop of its own: kept as the finding "hot test" while the entries say
    /// so, taken back when they no longer do.
    /// </summary>
    public static async Task KeepHotTestStopAsync(VisitStore visits, Guid visitId, StepSave save, Guid by, DateTime at)
    {
        var reversed = save.HotTest?.Reversed == true;
        var gassed = save.HotTest?.CoPpm >= SafetyStops.CoStop.Value;
        if (!reversed && !gassed)
        {
            await visits.DropFindingAsync(visitId, SafetyStops.HotTest);
            return;
        }
        var stored = (await visits.FindingsAsync(visitId)).FirstOrDefault(f => f.Part == SafetyStops.HotTest);
        await visits.SaveFindingAsync(new FindingRow(stored?.Id ?? Guid.CreateVersion7(), visitId, SafetyStops.HotTest, Word.Of(Condition.Unsafe),
            gassed ? CoMeaning(save.HotTest!.CoPpm)! : "The draft was below 0: smoke comes into the room.", null,
            gassed ? "room-co" : "spillage", stored?.Version ?? 0, Guid.CreateVersion7(), default, ""), by, at);
    }

    private static void CheckSave(Guid saveId, int baseVersion, EntryErrors errors)
    {
        if (saveId.Version != 7)
            errors.Add("saveId", "A save's id is a UUIDv7 made by the client.");
        if (baseVersion < 0)
            errors.Add("baseVersion", "The version a save starts from is 0 or more.");
    }
}
