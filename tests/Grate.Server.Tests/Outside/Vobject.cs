using System.Diagnostics;
using System.Text.Json;

namespace Grate.Server.Tests.Outside;

/// <summary>python3-vobject, which wrote none of it, reads cards and calendars.</summary>
internal static class Vobject
{
    /// <summary>Lines by their names, each with its group and its value.</summary>
    public static async Task<JsonElement> ReadAsync(string text)
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Grate.slnx")))
            folder = folder.Parent!;
        using var python = Process.Start(new ProcessStartInfo("/usr/bin/python3", Path.Combine(folder.FullName, "tests/Grate.Server.Tests/Outside/cards.py")) { RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true })!;
        await python.StandardInput.WriteAsync(text);
        python.StandardInput.Close();
        var (read, fault) = (await python.StandardOutput.ReadToEndAsync(), await python.StandardError.ReadToEndAsync());
        await python.WaitForExitAsync();
        Assert.True(python.ExitCode == 0, fault);
        return JsonDocument.Parse(read).RootElement;
    }
}
