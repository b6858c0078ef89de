using Grate.Core;

namespace Grate.Instruments.StandIn;

/// <summary>The stand-in's small page: what goes on at the stove. Plain HTML, no script.</summary>
internal static class StagePage
{
    private static readonly Dictionary<Scenario, string> _names = new()
    {
        [Scenario.Steady] = "Steady fire",
        [Scenario.ColdPlug] = "Cold plug, no fire yet",
        [Scenario.Gusts] = "Gusts over the top",
        [Scenario.FanOn] = "Range hood on",
        [Scenario.DoorLeak] = "Door leaks",
        [Scenario.BlockedCap] = "Cap nearly closed",
        [Scenario.HotRun] = "Lit just now, as in a hot test",
    };

    /// <summary>The page as the stage stands.</summary>
    public static string Of(Stage stage)
    {
        var scenarios = string.Concat(_names.Select(s =>
            $"<p><label><input type=radio name=scenario value={Word.Of(s.Key)}{(s.Key == stage.Scenario ? " checked" : "")}> {s.Value}</label></p>"));
        return $"""
            <!doctype html><html lang=en><meta charset=utf-8><title>Stand-in instruments</title>
            <meta name=viewport content="width=device-width">
            <style>body [[ font: 18px sans-serif; max-width: 30em; margin: 2em auto; background: #f4efe3; color: #221e1a ]] button [[ font: inherit; padding: .4em 1em ]]</style>
            <h1>Stand-in instruments</h1>
            <p>What goes on at the stove that the instruments are held to:</p>
            <form method=post action=/stage>{scenarios}
            <p><label><input type=checkbox name=window{(stage.WindowOpen ? " checked" : "")}> A window stands open</label></p>
            <p><button>Play it</button> <button name=garble value=1>Garble a line</button> <button name=cut value=1>Cut every connection</button></p>
            </form></html>
            """.Replace("[[", "{").Replace("]]", "}");
    }
}
