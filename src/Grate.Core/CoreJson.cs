using System.Text.Json;
using System.Text.Json.Serialization;
using Grate.Core.Air;
using Grate.Core.Burning;
using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Household;
using Grate.Core.Places;

namespace Grate.Core;

/// <summary>
/// How the core's records are written and read: camelCase, numbers only as numbers, words in kebab-case. Made at compile
/// time, so that it works trimmed and in a browser.
/// </summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web, NumberHandling = JsonNumberHandling.Strict, MaxDepth = 32,
    RespectNullableAnnotations = true, RespectRequiredConstructorParameters = true)]
[JsonSerializable(typeof(VisitContext))]
[JsonSerializable(typeof(StoveHistory))]
[JsonSerializable(typeof(Sentence[]))]
[JsonSerializable(typeof(ComputedStop[]))]
[JsonSerializable(typeof(Fact[]))]
[JsonSerializable(typeof(FirmWays))]
[JsonSerializable(typeof(FirmContact))]
[JsonSerializable(typeof(Suspects))]
[JsonSerializable(typeof(SuspectsAnswer))]
[JsonSerializable(typeof(CauseFound))]
[JsonSerializable(typeof(CauseAnswer))]
[JsonSerializable(typeof(DueTask[]))]
[JsonSerializable(typeof(FittingEntry[]))]
[JsonSerializable(typeof(Obstacle[]))]
[JsonSerializable(typeof(StripDown))]
[JsonSerializable(typeof(StripDownAnswer))]
[JsonSerializable(typeof(LiningCheck))]
[JsonSerializable(typeof(LiningCheckAnswer))]
[JsonSerializable(typeof(BaffleCheck))]
[JsonSerializable(typeof(BaffleCheckAnswer))]
[JsonSerializable(typeof(TubesCheck))]
[JsonSerializable(typeof(TubesCheckAnswer))]
[JsonSerializable(typeof(AshCheck))]
[JsonSerializable(typeof(AshCheckAnswer))]
[JsonSerializable(typeof(CombustorCheck))]
[JsonSerializable(typeof(CombustorCheckAnswer))]
[JsonSerializable(typeof(LightOffTest))]
[JsonSerializable(typeof(LightOffTestAnswer))]
[JsonSerializable(typeof(BypassCheck))]
[JsonSerializable(typeof(BypassCheckAnswer))]
[JsonSerializable(typeof(ThermostatCheck))]
[JsonSerializable(typeof(ThermostatCheckAnswer))]
[JsonSerializable(typeof(HotRun))]
[JsonSerializable(typeof(HotRunAnswer))]
[JsonSerializable(typeof(RoomPlan))]
[JsonSerializable(typeof(RoomPlanAnswer))]
[JsonSerializable(typeof(HearthCheck))]
[JsonSerializable(typeof(HearthCheckAnswer))]
[JsonSerializable(typeof(SurfaceCheck))]
[JsonSerializable(typeof(SurfaceCheckAnswer))]
[JsonSerializable(typeof(OutsideAir))]
[JsonSerializable(typeof(OutsideAirAnswer))]
[JsonSerializable(typeof(DamperCheck))]
[JsonSerializable(typeof(DamperCheckAnswer))]
[JsonSerializable(typeof(AirControls))]
[JsonSerializable(typeof(AirControlsAnswer))]
[JsonSerializable(typeof(WoodRecord))]
[JsonSerializable(typeof(WoodAnswer))]
[JsonSerializable(typeof(WoodPileCheck))]
[JsonSerializable(typeof(WoodPileAnswer))]
[JsonSerializable(typeof(Nights))]
[JsonSerializable(typeof(NightsAnswer))]
[JsonSerializable(typeof(ColdChecks))]
[JsonSerializable(typeof(ColdChecksAnswer))]
[JsonSerializable(typeof(TopCheck))]
[JsonSerializable(typeof(TopCheckAnswer))]
[JsonSerializable(typeof(HotTest))]
[JsonSerializable(typeof(HotTestAnswer))]
[JsonSerializable(typeof(SweepRecord))]
[JsonSerializable(typeof(SweepAnswer))]
[JsonSerializable(typeof(StripTest))]
[JsonSerializable(typeof(StripTestAnswer))]
[JsonSerializable(typeof(StoveMeasures))]
[JsonSerializable(typeof(DoorLook))]
[JsonSerializable(typeof(DoorLookAnswer))]
[JsonSerializable(typeof(SealsRecord))]
[JsonSerializable(typeof(SealsAnswer))]
[JsonSerializable(typeof(ClosedAirTest))]
[JsonSerializable(typeof(ClosedAirTestAnswer))]
[JsonSerializable(typeof(Agreement))]
[JsonSerializable(typeof(AgreementAnswer))]
[JsonSerializable(typeof(double))]
[JsonSerializable(typeof(WantedPart[]))]
[JsonSerializable(typeof(double[]))]
[JsonSerializable(typeof(bool))]
[JsonSerializable(typeof(DateOnly))]
[JsonSerializable(typeof(JsonElement))]
[JsonSerializable(typeof(string))]
public sealed partial class CoreJson : JsonSerializerContext;
