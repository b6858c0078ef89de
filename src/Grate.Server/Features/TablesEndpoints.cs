using Grate.Core;
using Grate.Core.Air;
using Grate.Core.Burning;
using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Core.Fuel;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Household;
using Grate.Server.Features.Visits;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Grate.Server.Features;

/// <summary>A quantity in both systems.</summary>
/// <param name="Quantity">Its word.</param>
/// <param name="Metric">Metric.</param>
/// <param name="Us">US customary.</param>
public sealed record UnitRow(Quantity Quantity, Unit Metric, Unit Us);

/// <summary>Words a user picks, with their names on screen.</summary>
/// <param name="Condition">Condition of a part.</param>
/// <param name="StepStatus">How far a step is.</param>
/// <param name="FiringLevel">The fire.</param>
/// <param name="GasBy">How the flue gas was read.</param>
/// <param name="ControlPosition">Position of the air control.</param>
/// <param name="DraftVerdict">What a reading means.</param>
/// <param name="AirFall">What the air does in the cold flue.</param>
/// <param name="HeatSource">What warms it.</param>
/// <param name="HowSeen">How a deposit was seen.</param>
/// <param name="SeenThrough">How the flue was looked through.</param>
/// <param name="Fallen">What fell.</param>
/// <param name="MeterBasis">Basis of the moisture meter.</param>
/// <param name="WoodKind">Kind of wood.</param>
/// <param name="WoodMeasure">How wood is counted.</param>
/// <param name="Habit">How it is burnt.</param>
/// <param name="RopeState">State of a rope.</param>
/// <param name="RopeSign">What else is seen on a rope.</param>
/// <param name="LatchTravel">How far the latch can be drawn in.</param>
/// <param name="HingePlay">Play of the hinges.</param>
/// <param name="GlassSign">What is seen on the glass.</param>
/// <param name="Fixing">How a part is held.</param>
/// <param name="BrickState">State of a brick.</param>
/// <param name="MessageKind">What a household is told of its visit.</param>
/// <param name="InboxKind">What a household says from outside.</param>
/// <param name="LivingPart">Parts whose lives are learned.</param>
/// <param name="ListField">What a column of a list of households holds.</param>
/// <param name="PanelPlace">Panels of a firebox.</param>
/// <param name="BrickCause">Why it went.</param>
/// <param name="BaffleKind">What a baffle is.</param>
/// <param name="BaffleSign">What is seen on it.</param>
/// <param name="TubeSign">What is seen on air tubes.</param>
/// <param name="TubeEnd">Their ends.</param>
/// <param name="AirWay">How free a way of air is.</param>
/// <param name="AshFuel">What makes ash.</param>
/// <param name="CombustorKind">What a combustor is made of.</param>
/// <param name="CombustorColour">Its colour.</param>
/// <param name="CombustorSign">What else is seen on it.</param>
/// <param name="BypassSign">What is seen on a bypass.</param>
/// <param name="ThermostatSign">What is seen on a thermostat.</param>
/// <param name="LightingSchool">Ways to light a fire.</param>
/// <param name="RunSaw">What is seen in a hot test.</param>
/// <param name="SeasoningClass">How fast wood dries.</param>
/// <param name="Coals">Live coals in the morning.</param>
/// <param name="StoveSide">Sides of a stove.</param>
/// <param name="ClearanceOf">To what a distance is measured.</param>
/// <param name="Shield">What protects a wall.</param>
/// <param name="HearthMaterial">What a hearth is built up of.</param>
/// <param name="SpotKind">What of the house a spot lies on.</param>
/// <param name="AirControlKind">What an air control feeds.</param>
/// <param name="ControlMoves">How a control moves.</param>
/// <param name="DuctKind">What a duct is made of.</param>
/// <param name="DuctScreen">What screens its intake.</param>
/// <param name="DuctWay">Where a run of it goes.</param>
/// <param name="DuctThrough">What a run passes.</param>
/// <param name="IntakeSign">What is seen on duct and intake.</param>
/// <param name="AirSchool">How a stove gets its outside air.</param>
/// <param name="ConnectorSign">What is seen along a connector.</param>
/// <param name="Skill">What not everybody can do.</param>
/// <param name="DayPart">Parts of the day that a household wishes.</param>
/// <param name="WorkDay">Days of the week.</param>
/// <param name="SweepSchool">Schools of sweeping.</param>
/// <param name="Language">Languages in which households are written to.</param>
/// <param name="StockKind">What lies in vans and store.</param>
/// <param name="StockMove">What happens to it.</param>
/// <param name="BuiltEra">When a house was built.</param>
/// <param name="UsualFlue">Usual systems.</param>
/// <param name="Mark">Where a value comes from.</param>
public sealed record WordTables(
    IReadOnlyList<Named> Condition, IReadOnlyList<Named> StepStatus, IReadOnlyList<Named> FiringLevel, IReadOnlyList<Named> GasBy, IReadOnlyList<Named> ControlPosition,
    IReadOnlyList<Named> DraftVerdict, IReadOnlyList<Named> AirFall, IReadOnlyList<Named> HeatSource, IReadOnlyList<Named> HowSeen, IReadOnlyList<Named> SeenThrough,
    IReadOnlyList<Named> Fallen, IReadOnlyList<Named> MeterBasis, IReadOnlyList<Named> WoodKind, IReadOnlyList<Named> WoodMeasure, IReadOnlyList<Named> Habit,
    IReadOnlyList<Named> RopeState, IReadOnlyList<Named> RopeSign, IReadOnlyList<Named> LatchTravel, IReadOnlyList<Named> HingePlay, IReadOnlyList<Named> GlassSign,
    IReadOnlyList<Named> Fixing, IReadOnlyList<Named> BrickState, IReadOnlyList<Named> MessageKind, IReadOnlyList<Named> InboxKind, IReadOnlyList<Named> LivingPart, IReadOnlyList<Named> ListField, IReadOnlyList<Named> PanelPlace, IReadOnlyList<Named> BrickCause, IReadOnlyList<Named> BaffleKind, IReadOnlyList<Named> BaffleSign, IReadOnlyList<Named> TubeSign, IReadOnlyList<Named> TubeEnd, IReadOnlyList<Named> AirWay, IReadOnlyList<Named> AshFuel,
    IReadOnlyList<Named> CombustorKind, IReadOnlyList<Named> CombustorColour, IReadOnlyList<Named> CombustorSign, IReadOnlyList<Named> BypassSign, IReadOnlyList<Named> ThermostatSign,
    IReadOnlyList<Named> LightingSchool, IReadOnlyList<Named> RunSaw, IReadOnlyList<Named> SeasoningClass, IReadOnlyList<Named> Coals,
    IReadOnlyList<Named> StoveSide, IReadOnlyList<Named> ClearanceOf, IReadOnlyList<Named> Shield, IReadOnlyList<Named> HearthMaterial, IReadOnlyList<Named> SpotKind,
    IReadOnlyList<Named> AirControlKind, IReadOnlyList<Named> ControlMoves, IReadOnlyList<Named> DuctKind, IReadOnlyList<Named> DuctScreen, IReadOnlyList<Named> DuctWay, IReadOnlyList<Named> DuctThrough,
    IReadOnlyList<Named> IntakeSign, IReadOnlyList<Named> AirSchool, IReadOnlyList<Named> ConnectorSign,
    IReadOnlyList<Named> Skill, IReadOnlyList<Named> DayPart, IReadOnlyList<Named> WorkDay, IReadOnlyList<Named> SweepSchool, IReadOnlyList<Named> Language,
    IReadOnlyList<Named> StockKind, IReadOnlyList<Named> StockMove, IReadOnlyList<Named> BuiltEra, IReadOnlyList<Named> UsualFlue, IReadOnlyList<Named> Mark);

/// <summary>Numbers from which there is no fire: shown at once, offline too; the stop of record stays the server's.</summary>
/// <param name="CoPpm">Carbon monoxide in the room, from this on, ppm.</param>
/// <param name="CoSentence">What is said then.</param>
/// <param name="DraftBelowPa">A draft below this, Pa.</param>
/// <param name="DraftSentence">What is said then.</param>
/// <param name="DepositMm">A deposit from this on, mm.</param>
/// <param name="DepositSentence">What is said then.</param>
public sealed record NumericStops(double CoPpm, string CoSentence, double DraftBelowPa, string DraftSentence, double DepositMm, string DepositSentence);

/// <summary>What a photo may be, told before it is sent.</summary>
/// <param name="MostBytes">Most bytes of its file.</param>
/// <param name="TooLarge">What is said of a larger one.</param>
public sealed record PhotoLimit(int MostBytes, string TooLarge);

/// <summary>Tables that the web shows but does not know by heart.</summary>
/// <param name="Units">Conversions.</param>
/// <param name="Steps">The twelve steps.</param>
/// <param name="Kinds">Stove kinds.</param>
/// <param name="Constructions">Constructions.</param>
/// <param name="Fittings">Fittings.</param>
/// <param name="Caps">Tops.</param>
/// <param name="Fans">Fans of a house.</param>
/// <param name="SweepFromMm">Deposit from which to sweep, mm.</param>
/// <param name="StopFromMm">Deposit from which there is no fire, mm.</param>
/// <param name="Marks">Everything that is marked.</param>
/// <param name="StopReasons">Reasons for a stop.</param>
/// <param name="NumericStops">Numbers that are a stop.</param>
/// <param name="Photos">What a photo may be.</param>
/// <param name="Emergencies">What is told where life is in danger, the most dangerous first.</param>
/// <param name="Words">Words a user picks.</param>
/// <param name="Fields">Names of the fields for which defaults stand in, by the last word of their path.</param>
public sealed record TablesAnswer(
    IReadOnlyList<UnitRow> Units, IReadOnlyList<VisitStep> Steps, IReadOnlyList<Named> Kinds, IReadOnlyList<Named> Constructions,
    IReadOnlyList<Named> Fittings, IReadOnlyList<Named> Caps, IReadOnlyList<Fan> Fans, double SweepFromMm, double StopFromMm,
    IReadOnlyList<PartMark> Marks, IReadOnlyList<StopReason> StopReasons, NumericStops NumericStops, PhotoLimit Photos, IReadOnlyList<Emergency> Emergencies, WordTables Words, IReadOnlyDictionary<string, FieldName> Fields);

/// <summary>GET /api/tables.</summary>
public static class TablesEndpoints
{
    /// <summary>Maps the tables.</summary>
    public static void MapTables(this WebApplication app) =>
        app.MapGet("/api/tables", Tables).RequireAuthorization(Policies.SignedIn);

    private static Ok<TablesAnswer> Tables(HttpContext context, Parts parts, Languages languages)
    {
        context.Response.Headers.CacheControl = "private, max-age=300";
        return TypedResults.Ok(new TablesAnswer(
            [.. Enum.GetValues<Quantity>().Select(q => new UnitRow(q, Units.Of(q, UnitSystem.Metric), Units.Of(q, UnitSystem.Us)))],
            VisitSteps.All,
            [.. StoveKind.All.Select(k => new Named(k.Code, k.Name))],
            [.. Construction.All.Select(c => new Named(c.Code, c.Name))],
            [.. Fitting.All.Select(f => new Named(f.Code, f.Name))],
            [.. Cap.All.Select(c => new Named(c.Code, c.Name))],
            Fan.All,
            Deposit.SweepFrom.Value,
            Deposit.StopFrom.Value,
            parts.Marks,
            parts.Stops,
            new NumericStops(RoomCo.Stop.Value, parts.StopOrOther(HotDraftStation.Co).Sentence, FlueLimits.ReversedDraft.Value, parts.StopOrOther(HotDraftStation.Spillage).Sentence,
                Deposit.StopFrom.Value, parts.StopOrOther("deposit").Sentence),
            new PhotoLimit(Picture.MostBytes, Picture.TooLarge),
            Emergency.All,
            new WordTables(Word.Table<Condition>(), Word.Table<StepStatus>(), Word.Table<FiringLevel>(), Word.Table<GasBy>(), Word.Table<ControlPosition>(),
                Word.Table<DraftVerdict>(), Word.Table<AirFall>(), Word.Table<HeatSource>(), Word.Table<HowSeen>(), Word.Table<SeenThrough>(), Word.Table<Fallen>(),
                Word.Table<MeterBasis>(), Word.Table<WoodKind>(), Word.Table<WoodMeasure>(), Word.Table<Habit>(), Word.Table<RopeState>(), Word.Table<RopeSign>(),
                Word.Table<LatchTravel>(), Word.Table<HingePlay>(), Word.Table<GlassSign>(), Word.Table<Fixing>(), Word.Table<BrickState>(), Word.Table<MessageKind>(), Word.Table<InboxKind>(), Word.Table<LivingPart>(), Word.Table<ListField>(), Word.Table<PanelPlace>(), Word.Table<BrickCause>(), Word.Table<BaffleKind>(), Word.Table<BaffleSign>(), Word.Table<TubeSign>(), Word.Table<TubeEnd>(), Word.Table<AirWay>(), Word.Table<AshFuel>(),
                Word.Table<CombustorKind>(), Word.Table<CombustorColour>(), Word.Table<CombustorSign>(), Word.Table<BypassSign>(), Word.Table<ThermostatSign>(),
                Word.Table<LightingSchool>(), Word.Table<RunSaw>(), Word.Table<SeasoningClass>(), Word.Table<Coals>(),
                Word.Table<StoveSide>(), Word.Table<ClearanceOf>(), Word.Table<Shield>(), Word.Table<HearthMaterial>(), Word.Table<SpotKind>(),
                Word.Table<AirControlKind>(), Word.Table<ControlMoves>(), Word.Table<DuctKind>(), Word.Table<DuctScreen>(), Word.Table<DuctWay>(), Word.Table<DuctThrough>(),
                Word.Table<IntakeSign>(), Word.Table<AirSchool>(), Word.Table<ConnectorSign>(),
                Word.Table<Skill>(), Word.Table<DayPart>(), Word.Table<WorkDay>(), Word.Table<SweepSchool>(), [.. languages.All.Select(l => new Named(l.Code, l["lang.name"]))],
                Word.Table<StockKind>(), Word.Table<StockMove>(), House.Eras, TypicalFlue.Names, Word.Table<Mark>()),
            FieldNames.All));
    }
}
