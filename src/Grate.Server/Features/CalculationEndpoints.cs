using Grate.Core;
using Grate.Core.Air;
using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Server.Access;

namespace Grate.Server.Features;

/// <summary>The stateless calculations of the contract: POST a question, get the core's answer.</summary>
public static class CalculationEndpoints
{
    /// <summary>Maps /api/calculations.</summary>
    public static void MapCalculations(this WebApplication app)
    {
        var calculations = app.MapGroup("/api/calculations").RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate);
        calculations.MapPost("/draft", (DraftEntry entry) => Answer(entry, DraftAnswer.To)).Answers<DraftAnswer>();
        calculations.MapPost("/cold-start", (ColdStartEntry entry) => Answer(entry, ColdStartAnswer.To)).Answers<ColdStartAnswer>();
        calculations.MapPost("/house-pressure", (HousePressureEntry entry) => Answer(entry, HousePressureAnswer.To)).Answers<HousePressureAnswer>();
        calculations.MapPost("/termination", (TerminationEntry entry) => Answer(entry, TerminationAnswer.To)).Answers<TerminationAnswer>();
        calculations.MapPost("/deposits", (DepositsEntry entry) => Answer(entry, DepositsAnswer.To)).Answers<DepositsAnswer>();
        calculations.MapPost("/sweep-forecast", (SweepForecastEntry entry) => Answer(entry, (e, errors) => SweepForecastAnswer.To(e, errors))).Answers<SweepForecastAnswer>();
        calculations.MapPost("/steadiness", (SteadinessEntry entry) => Answer(entry, (run, errors) => Steadiness.Of(run.Samples, errors))).Answers<Steadiness>();
        calculations.MapPost("/door", (DoorEntry entry) => Answer(entry, DoorAnswer.To)).Answers<DoorAnswer>();
        calculations.MapPost("/lining", (LiningEntry entry) => Answer(entry, LiningAnswer.To)).Answers<LiningAnswer>();
        calculations.MapPost("/lining-compare", (LiningCompareEntry entry) => Answer(entry, LiningCompareAnswer.To)).Answers<LiningCompareAnswer>();
        calculations.MapPost("/baffle", (BaffleEntry entry) => Answer(entry, BaffleAnswer.To)).Answers<BaffleAnswer>();
        calculations.MapPost("/ash", (AshEntry entry) => Answer(entry, AshAnswer.To)).Answers<AshAnswer>();
        calculations.MapPost("/combustor", (CombustorEntry entry) => Answer(entry, CombustorAnswer.To)).Answers<CombustorAnswer>();
        calculations.MapPost("/air-duct", (AirDuctEntry entry) => Answer(entry, AirDuctAnswer.To)).Answers<AirDuctAnswer>();
        calculations.MapPost("/damper", (DamperEntry entry) => Answer(entry, DamperAnswer.To)).Answers<DamperAnswer>();
        calculations.MapPost("/wood", (FuelEntry entry) => Answer(entry, FuelAnswer.To)).Answers<FuelAnswer>();
        calculations.MapPost("/overnight", (OvernightEntry entry) => Answer(entry, OvernightAnswer.To)).Answers<OvernightAnswer>();
        calculations.MapPost("/hearth", (HearthEntry entry) => Answer(entry, HearthAnswer.To)).Answers<HearthAnswer>();
        calculations.MapPost("/surface", (SurfaceEntry entry) => Answer(entry, SurfaceAnswer.To)).Answers<SurfaceAnswer>();
        calculations.MapPost("/diagnosis", (DiagnosisEntry entry) => Answer(entry, (e, errors) => DiagnosisAnswer.To(e, errors))).Answers<DiagnosisAnswer>();
        calculations.MapPost("/parts-order", (PartsOrderEntry entry) => Answer(entry, PartsOrderAnswer.To)).Answers<PartsOrderAnswer>();
        calculations.MapPost("/round", (RoundEntry entry, IRoundSolver solver) => Answer(entry, (asked, errors) => RoundAnswer.To(asked, errors, solver))).Answers<RoundAnswer>();
        calculations.MapPost("/brick-layout", (BrickLayoutEntry entry, IBrickSolver solver) => Answer(entry, (asked, errors) => BrickLayoutAnswer.To(asked, errors, solver))).Answers<BrickLayoutAnswer>();
        calculations.MapPost("/gasket-cuts", (GasketCutsEntry entry, ICutSolver solver) => Answer(entry, (asked, errors) => GasketCuts.To(asked, errors, solver))).Answers<GasketCuts>();
    }

    private static void Answers<TAnswer>(this RouteHandlerBuilder endpoint) => endpoint.Produces<TAnswer>().ProducesValidationProblem();

    private static IResult Answer<TEntry, TAnswer>(TEntry entry, Func<TEntry, EntryErrors, TAnswer?> compute)
        where TAnswer : class
    {
        var errors = new EntryErrors();
        return compute(entry, errors) is { } answer ? TypedResults.Ok(answer) : Faults.Refused(errors);
    }
}
