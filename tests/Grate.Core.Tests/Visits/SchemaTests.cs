using System.Text.Json;
using System.Text.Json.Nodes;
using Grate.Core.Flue;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Visits;

/// <summary>Stored entries of every shape that was ever written are read by today's, and a question travels as one document.</summary>
public class SchemaTests
{
    // As the database holds them: a shape is never changed once written; a new one is another line here.
    [Theory]
    [InlineData("wood", 1, """{"pieces":[[0.19,0.21,null]],"meterBasis":"dry","woodC":12,"wood":"beech-oak","amount":3.5,"measure":"cord","habit":"slow"}""")]
    [InlineData("cold-flue", 1, """{"outdoorC":4,"airFall":"rises","fans":[{"kind":"hood","flowM3S":0.12}],"roomOffPa":-2}""")]
    [InlineData("top", 1, """{"aboveRoofM":1.1,"screenCloggedShare":0.3,"exposed":true}""")]
    [InlineData("deposits", 1, """{"found":{"flue":{"stage":2,"mm":3,"worstMm":5,"howSeen":"mirror-and-light"}},"sweptL":4.5,"fell":["soot"],"leftMm":0.2,"done":["swept"],"minutes":55}""")]
    [InlineData("hot-draft", 2, """{"readings":[{"level":"normal","draftPa":14,"gasC":230,"run":{"meanPa":14,"minPa":13,"maxPa":15,"deviationPa":0.4,"swingPa":1.2,"swingShare":null,"count":80,"spanS":20,"unsteady":null}}],"coPpm":3}""")]
    [InlineData("door-strips", 1, """{"widthM":0.5,"heightM":0.36,"grades":{"latch-2":0,"hinge-top":3},"more":[{"place":"latch","atM":1.05,"grade":1}],"rope":"flattened","latchAtEnd":false}""")]
    [InlineData("ash-door-strips", 1, """{"widthM":0.3,"heightM":0.12,"grades":{"hinge-1":1}}""")]
    [InlineData("lid-strips", 1, """{"grades":{"top-1":2},"rope":"hard"}""")]
    [InlineData("door-look", 1, """{"rope":"flattened","ropeSigns":["gap"],"latch":"at-end","hinge":"slight","glass":["moves","black-side"]}""")]
    [InlineData("seals", 1, """{"seals":{"door":{"widthMm":10,"depthMm":6,"oldMm":11,"manualMm":null,"manualCement":true,"lineM":1.72,"done":["off"],"cementedAt":"14:10:00","cureH":2}}}""")]
    [InlineData("closed-air", 1, """{"closesFully":true,"collapseS":75,"reviveS":8}""")]
    [InlineData("strip-down", 1, """{"items":[{"part":"air tubes","fixing":"clips","count":4,"tool":"pliers","caution":"hot?","label":"notch left","goesBack":2,"back":true,"countIn":4,"ordered":false}]}""")]
    [InlineData("lining", 1, """{"panels":{"floor":{"widthMm":480,"heightMm":380,"thicknessMm":32,"courses":[2,2,3]}},"bricks":{"floor-3":{"state":"open","crackMm":4,"lostMm":null,"cause":"logs-thrown","renewed":true}}}""")]
    [InlineData("baffle", 1, """{"kind":"dense-slab","thicknessMm":30,"spanMm":420,"deflectionMm":-6,"signs":["hairline","debris-on-top"],"turned":true}""")]
    [InlineData("air-tubes", 1, """{"tubes":3,"holesEach":24,"blocked":[2,0,5],"signs":["clip-missing"],"notchEnd":"left","airWash":"partly","floorAir":"free"}""")]
    [InlineData("ash", 1, """{"fuel":"bark","depthMm":40,"panL":6,"touchesGrate":true}""")]
    [InlineData("combustor", 1, """{"kind":"ceramic","across":12,"down":6,"dark":[0,1,13],"broken":[70],"coatingShare":0.1,"colour":"grey-brown","signs":["hairline"],"fittedOn":"2022-10-01","hours":5200}""")]
    [InlineData("bypass", 1, """{"signs":["will-not-lock","build-up"]}""")]
    [InlineData("thermostat", 1, """{"signs":["knob-slips"],"closesS":40,"opensS":65,"openedBy":"I. Varnholt"}""")]
    [InlineData("light-off", 1, """{"series":[{"minute":0,"probeC":290},{"minute":5,"probeC":350}],"goodFire":true,"topClear":false}""")]
    [InlineData("air-controls", 1, """{"controls":[{"kind":"air-wash","label":"upper slide","travelMm":60,"moves":"stiff","closes":false,"wood":"open","coal":"half"}]}""")]
    [InlineData("outside-air", 1, """{"runs":[{"toward":"back","lengthM":1.2,"through":"wall"}],"kind":"flex","diameterMm":100,"collarMm":80,"airCollar":true,"bends45":1,"hood":true,"screen":"insect-dirty","insulationMm":9,"humidity":0.5,"codeAsks":false,"signs":["snow"]}""")]
    [InlineData("dampers", 1, """{"plate":true,"makerAsks":false,"highFireDraftPa":28,"elbows90":2,"flapStiff":true,"levelRiseMmPerM":15,"signs":["crimps-up"]}""")]
    [InlineData("room-plan", 1, """{"things":[{"name":"wall behind","side":"back","of":"stove","foundMm":420,"labelMm":400,"labelMinimumMm":200,"shield":"sheet-metal","scorched":false}]}""")]
    [InlineData("hearth", 1, """{"layers":[{"material":"cement-board","thicknessMm":12.7,"count":2}],"requiredRM2KW":0.18,"label":{"frontMm":450},"found":{"frontMm":400,"sideMm":200},"openingM2":0.4,"offers":[{"id":"tile 9 mm","material":"ceramic-tile","thicknessMm":9,"pricePerM2":22}]}""")]
    [InlineData("surfaces", 1, """{"roomC":22,"gaugeEmissivity":0.95,"gasNowC":210,"spots":[{"label":"mantel","readC":58,"readAt":"10:42:00","laterC":61,"emissivity":0.9,"kind":"exposed"}]}""")]
    [InlineData("wood-pile", 1, """{"stackedM3":6.5,"class":"dense-hardwood","rounds":false,"covered":true}""")]
    [InlineData("nights", 1, """{"told":[{"loadKg":10,"hours":8.5,"coals":"some","inStartC":21.7,"inEndC":18.9,"outStartC":-1,"outEndC":-3}],"wantedHours":9,"wantedInC":20,"wantedOutC":-12,"wantedCoals":"plenty"}""")]
    [InlineData("hot-run", 1, """{"startedAt":"2026-11-20T09:12:00+00:00","pausedAt":null,"pausedS":90,"endedAt":"2026-11-20T10:15:00+00:00","school":"top-down","marks":[{"step":"read5","minute":5,"gasC":120,"draftPa":9.8},{"step":"open-slowly","minute":50,"saw":"puff"}],"samples":[{"minute":5,"gasC":120,"draftPa":9.8}]}""")]
    [InlineData("suspects", 1, """{"told":{"smoke-lighting":true,"smoke-reload":false}}""")]
    [InlineData("cause", 1, """{"causes":["door-rope"],"outside":false,"minutes":18}""")]
    [InlineData("agreement", 1, """{"name":"A. Hollis","strokes":[[0.1,0.2,0.3,0.4]],"nobodyAtHome":false}""")]
    public void Stored_entry_is_read_and_written_back_the_same(string station, int schema, string stored)
    {
        var of = Parts.All.Stations.Single(s => s.Code == station);
        Assert.Equal(of.Schema, schema);
        var reader = new Reader(stored, schema);
        of.Accept(reader);
        foreach (var (name, value) in JsonNode.Parse(stored)!.AsObject())
            Assert.True(JsonNode.DeepEquals(value, reader.Written![name]) || Contains(value, reader.Written[name]), $"{name}: {reader.Written[name]}");
    }

    [Fact]
    public void Hot_test_of_the_first_shape_is_read_in_todays()
    {
        var read = new HotDraftStation().Read("""{"readings":[{"level":"normal","draftPa":14,"run":{"meanPa":14,"minPa":13,"maxPa":15,"deviationPa":0.4,"swingShare":0.1,"count":240,"unsteady":false}}],"coPpm":3}""", 1);
        var run = read.Readings.Single().Run!;
        // A swing of 10 % of 14 Pa; 240 readings, four a second, are a minute.
        Assert.Equal((14, 3, 1.4, 60), (read.Readings.Single().DraftPa, read.CoPpm, Math.Round(run.SwingPa, 9), run.SpanS));
    }

    [Fact]
    public void Every_station_has_its_line_here() => Assert.Equal(
        typeof(SchemaTests).GetMethod(nameof(Stored_entry_is_read_and_written_back_the_same))!.GetCustomAttributesData()
            .Where(a => a.AttributeType == typeof(InlineDataAttribute)).Select(a => (string)((System.Collections.ObjectModel.ReadOnlyCollection<System.Reflection.CustomAttributeTypedArgument>)a.ConstructorArguments[0].Value!)[0].Value!).Order(),
        Parts.All.Stations.Select(s => s.Code).Order());

    [Fact]
    public void Question_travels_as_one_document_and_gets_the_same_answer()
    {
        var at = Histories.At(Histories.Of(Histories.Swept(new DateOnly(2025, 11, 1), 2, 0.1)), [new VisitFact("cold-checks", "cold-flue", FlueFacts.OutdoorC, 4, null, new TimeOnly(10, 12))], [new("sweep", "cap", Condition.Spent)])
            with
        { Weather = new WeatherThen(new TimeOnly(9, 30), 4, -2) };
        var text = JsonSerializer.Serialize(at, CoreJson.Default.VisitContext);
        var again = JsonSerializer.Deserialize(text, CoreJson.Default.VisitContext)!;
        Assert.Equal(text, JsonSerializer.Serialize(again, CoreJson.Default.VisitContext));
        var test = new HotTest([new HotReading("normal", 9, 250)]);
        Assert.Equal(Histories.Words(new HotDraftStation().Ask(test, at).Sentences), Histories.Words(new HotDraftStation().Ask(test, again).Sentences));
    }

    // What is written may name more than was stored, with defaults; nothing stored is lost.
    private static bool Contains(JsonNode? stored, JsonNode? written) => (stored, written) switch
    {
        (JsonObject a, JsonObject b) => a.All(p => b.ContainsKey(p.Key) && Contains(p.Value, b[p.Key])),
        (JsonArray a, JsonArray b) => a.Count == b.Count && a.Zip(b).All(p => Contains(p.First, p.Second)),
        _ => JsonNode.DeepEquals(stored, written),
    };

    private sealed class Reader(string stored, int schema) : IStationVisitor
    {
        public JsonObject? Written { get; private set; }

        public void Meet<TEntry, TAnswer>(Station<TEntry, TAnswer> station)
            where TEntry : class
            where TAnswer : class, IReckoned => Written = JsonSerializer.SerializeToNode(station.Read(stored, schema), station.EntryJson)!.AsObject();
    }
}
