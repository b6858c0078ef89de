using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Server.Access;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Grate.Server.Features;

/// <summary>A quantity in both systems.</summary>
/// <param name="Quantity">Its word.</param>
/// <param name="Metric">Metric.</param>
/// <param name="Us">US customary.</param>
public sealed record UnitRow(Quantity Quantity, Unit Metric, Unit Us);

/// <summary>A word of a table with its name.</summary>
/// <param name="Code">Word.</param>
/// <param name="Name">Name on screen.</param>
public sealed record Named(string Code, string Name);

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
/// <param name="StopReasons">Reasons for a stop.</param>
public sealed record TablesAnswer(
    IReadOnlyList<UnitRow> Units, IReadOnlyList<VisitStep> Steps, IReadOnlyList<Named> Kinds, IReadOnlyList<Named> Constructions,
    IReadOnlyList<Named> Fittings, IReadOnlyList<Named> Caps, IReadOnlyList<Fan> Fans, double SweepFromMm, double StopFromMm,
    IReadOnlyList<StopReason> StopReasons);

/// <summary>GET /api/tables.</summary>
public static class TablesEndpoints
{
    /// <summary>Maps the tables.</summary>
    public static void MapTables(this WebApplication app) =>
        app.MapGet("/api/tables", Tables).RequireAuthorization(Policies.SignedIn);

    private static Ok<TablesAnswer> Tables(HttpContext context)
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
            SafetyStops.All));
    }
}
