using System.Net;
using System.Net.ServerSentEvents;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Grate.Core.Flue;
using Grate.Instruments;
using Grate.Instruments.StandIn;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging.Abstractions;

namespace Grate.Server.Tests;

/// <summary>Frames, the stand-in's stove, and the stream from a bridge to a browser.</summary>
[Collection(nameof(OneServer))]
public class InstrumentTests(GrateServer server)
{
    private static InstrumentFrame? Read(string line, out string fault) => InstrumentFrame.Read(Encoding.UTF8.GetBytes(line), out fault);

    [Fact]
    public void Frame_of_the_documents_example_is_read()
    {
        var example = File.ReadLines(Path.Combine(Root(), "docs/instruments.md")).First(l => l.StartsWith("{\"instrument\":\"draft-gauge\"", StringComparison.Ordinal));
        var frame = Read(example, out _)!;
        Assert.Equal(12.4, frame.Values["draftPa"]);
        Assert.Equal(("draft-gauge", 1041), (frame.Instrument, frame.Seq));
    }

    [Theory]
    [InlineData("{\"instrument\":\"draft-gauge\"", "not a frame")]
    [InlineData("null", "unknown instrument")]
    [InlineData("[]", "not a frame")]
    [InlineData("{\"instrument\":\"scale\",\"serial\":\"a\",\"seq\":1,\"at\":\"2026-11-25T08:00:00Z\",\"values\":{}}", "unknown instrument")]
    [InlineData("{\"instrument\":\"draft-gauge\",\"serial\":\"a\",\"seq\":1,\"at\":\"2026-11-25T08:00:00Z\",\"values\":{}}", "draftPa is missing")]
    [InlineData("{\"instrument\":\"draft-gauge\",\"serial\":\"a\",\"seq\":1,\"at\":\"2026-11-25T08:00:00Z\",\"values\":{\"draftPa\":9999}}", "draftPa cannot be")]
    [InlineData("{\"instrument\":\"draft-gauge\",\"serial\":\"\",\"seq\":1,\"at\":\"2026-11-25T08:00:00Z\",\"values\":{\"draftPa\":9}}", "no serial number")]
    [InlineData("{\"instrument\":\"draft-gauge\",\"serial\":\"a\",\"seq\":1,\"at\":\"yesterday\",\"values\":{\"draftPa\":9}}", "not a frame")]
    public void Malformed_and_absurd_frames_are_dropped(string line, string fault)
    {
        Assert.Null(Read(line, out var said));
        Assert.Equal(fault, said);
    }

    [Fact]
    public async Task Lines_are_read_in_bounded_memory()
    {
        using var stream = new MemoryStream(Encoding.UTF8.GetBytes("one\n" + new string('x', 100_000) + "\ntwo\n\nunfinished"));
        var reader = new LineReader(stream);
        var read = new List<string>();
        while (await reader.ReadAsync(default) is { } line)
            read.Add(line.TooLong ? "too long" : Encoding.UTF8.GetString(line.Bytes.Span));
        Assert.Equal(["one", "too long", "two", ""], read);
    }

    private static readonly InstrumentPlace _place = new(new FlueEntry(
    [
        new SegmentEntry("pipe", "single-wall-steel", new ShapeEntry("round", 0.15), 1.5, 1.5, "indoor"),
        new SegmentEntry("stack", "insulated-50", new ShapeEntry("round", 0.15), 5, 5, "outdoor"),
    ], "low-resistance"), 0, 5, 20, 300, 4);

    private static List<StandInReadings> Play(Scenario scenario, int seconds, bool window = false, StandInStove? stove = null)
    {
        var stage = new Stage { Scenario = scenario, WindowOpen = window };
        stove ??= new StandInStove(_place, 7);
        return [.. Enumerable.Range(0, 4 * seconds).Select(_ => stove.Step(stage, 0.25))];
    }

    private static Steadiness Judge(IEnumerable<StandInReadings> readings) =>
        Steadiness.Of([.. readings.Select((r, i) => new RunSample(i * 0.25, r.DraftPa))], new Core.EntryErrors())!;

    // P01 at 5 °C expects 26.6 Pa with gas at 250 °C; the stand-in burns at 240 and has its room 1 Pa below.
    [Fact]
    public void Scenarios_behave_as_their_names_say()
    {
        var steady = Judge(Play(Scenario.Steady, 61));
        Assert.InRange(steady.MeanPa, 23, 27);
        Assert.False(steady.Unsteady);
        Assert.True(Judge(Play(Scenario.Gusts, 60)).Unsteady);
        Assert.True(Judge(Play(Scenario.ColdPlug, 30)).MeanPa < -0.5);
        Assert.True(Judge(Play(Scenario.BlockedCap, 30)).MeanPa < steady.MeanPa - 8);
        var leak = Play(Scenario.DoorLeak, 120)[^1];
        Assert.True(leak.FlueC < 170 && leak.DraftPa < steady.MeanPa - 2);
        Assert.True(Play(Scenario.ColdPlug, 10)[^1].CoPpm > 3);
    }

    // However tight the house and strong the hood, the room stays where rooms stay.
    [Fact]
    public void Room_of_the_tightest_house_stays_believable()
    {
        var stove = new StandInStove(_place with { Ach50 = 0.6, VolumeM3 = 200 }, 7);
        Assert.All(Play(Scenario.FanOn, 60, stove: stove), r => Assert.InRange(r.RoomPa, -22, 1));
    }

    [Fact]
    public void Opened_window_lets_the_draft_recover_from_the_fan()
    {
        var stove = new StandInStove(_place, 7);
        var steady = Judge(Play(Scenario.Steady, 20, stove: stove).Skip(40));
        var fan = Play(Scenario.FanOn, 20, stove: stove).Skip(60).ToList();
        var window = Play(Scenario.FanOn, 20, window: true, stove: stove).Skip(60).ToList();
        // Handbook 01, section 8: 120 L/s take 10.4 Pa in this house; 150 L/s take (150/120)^(1/0.65) of that.
        var byHand = -10.4 * Math.Pow(150.0 / 120, 1 / 0.65);
        Assert.Equal(byHand - 1, fan.Average(r => r.RoomPa), 0.3);
        Assert.Equal(steady.MeanPa + byHand, Judge(fan).MeanPa, 1.0);
        Assert.True(Judge(window).MeanPa > steady.MeanPa);
    }

    [Fact]
    public async Task Stream_carries_frames_counts_what_it_drops_and_survives_a_cut()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var stage = new Stage();
        using var standIn = new StandInServer(stage, listener, TimeProvider.System, NullLogger<StandInServer>.Instance);
        await ((IHostedService)standIn).StartAsync(default);
        await using var wired = new GrateServer(server, ("Instruments:Host", "127.0.0.1"), ("Instruments:Port", ((IPEndPoint)listener.LocalEndpoint).Port.ToString()));
        var client = await wired.SignedInAsync("technician");
        var visit = await client.VisitAsync(0);

        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(120));
        await using var stream = await client.GetStreamAsync(new Uri($"/api/visits/{visit}/instruments", UriKind.Relative), patience.Token);
        var frames = new List<JsonElement>();
        var states = new List<string>();
        double dropped = 0;
        await foreach (var item in SseParser.Create(stream).EnumerateAsync(patience.Token))
        {
            var happened = JsonDocument.Parse(item.Data).RootElement;
            states.Add(happened.Text("state"));
            dropped = happened.Number("dropped");
            if (happened.GetProperty("frame").ValueKind == JsonValueKind.Object)
                frames.Add(happened.GetProperty("frame"));
            if (frames.Count == 3)
                stage.Garble();
            if (frames.Count == 12)
                stage.Cut();
            if (frames.Count >= 20)
                break;
        }
        Assert.Equal("connected", states[0]);
        Assert.Contains("lost", states);
        Assert.True(dropped is 1 or 2, $"{dropped} dropped");
        Assert.Equal(5, frames.Select(f => f.Text("instrument")).Distinct().Count());
        // No frame of the gauge is missing between two states but the garbled ones.
        var gauge = frames.Where(f => f.Text("instrument") == "pressure-gauge").Select(f => f.Number("seq")).TakeWhile((seq, i) => i == 0 || seq > 1).ToList();
        Assert.True(gauge[^1] - gauge[0] + 1 - gauge.Count <= dropped);
        await ((IHostedService)standIn).StopAsync(default);
    }

    [Fact]
    public async Task Without_a_bridge_the_stream_says_so()
    {
        var client = await server.SignedInAsync("technician");
        var text = await client.GetStringAsync(new Uri($"/api/visits/{await client.VisitAsync(0)}/instruments", UriKind.Relative));
        Assert.Contains("\"state\":\"none\"", text, StringComparison.Ordinal);
        await client.SendAsync(HttpMethod.Get, $"/api/visits/{Guid.CreateVersion7()}/instruments", new { }, HttpStatusCode.NotFound);
    }

    private static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Grate.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
