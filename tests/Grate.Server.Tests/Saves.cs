namespace Grate.Server.Tests;

/// <summary>Bodies of saves.</summary>
internal static class Saves
{
    public static object Step(int version = 0, string status = "done", string note = "", string reason = "", object? hotTest = null, Guid? id = null,
        object? coldChecks = null, object? sweep = null, object? wood = null) =>
        new { saveId = id ?? Guid.CreateVersion7(), baseVersion = version, status, reason, note, hotTest, coldChecks, sweep, wood };

    public static object Finding(string part, string condition, int version = 0, string note = "", string? stop = null, Guid? id = null) =>
        new { saveId = id ?? Guid.CreateVersion7(), baseVersion = version, part, condition, note, lookAgain = (string?)null, stopCode = stop };

    public static object HotTest(double? draftPa, string level = "normal", double? coPpm = null) => new
    {
        readings = new[] { new { level, draftPa, gasC = 230, gasBy = "probe", outdoorC = -5, roomC = 21, housePa = -2.0, houseMeasured = true } },
        coPpm,
    };
}
