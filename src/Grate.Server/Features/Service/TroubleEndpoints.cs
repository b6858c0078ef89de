using System.Security.Claims;
using Grate.Core;
using Grate.Core.Diagnosis;
using Grate.Server.Access;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>The firm's troubles, and what was said of causes.</summary>
/// <param name="Record">What they were.</param>
/// <param name="Tunes">What was said, newest first.</param>
public sealed record TroublesAnswer(TroubleRecord Record, IReadOnlyList<TroubleTune> Tunes);

/// <summary>How often a cause is to be expected on a trouble call.</summary>
/// <param name="Prior">0.001..0.5; null as shipped.</param>
public sealed record TuneEntry(double? Prior = null);

/// <summary>What the firm's troubles were, how good the first suspects, and the firm's own priors.</summary>
public static class TroubleEndpoints
{
    private static readonly EntryRange _prior = new("How often it is to be expected", Quantity.Ratio, 0.001, 0.5);

    /// <summary>Maps /api/troubles.</summary>
    public static void MapTroubles(this WebApplication app)
    {
        app.MapGet("/api/troubles", async (TroubleStore troubles, FirmStore firms) => TypedResults.Ok(await AnswerAsync(troubles, firms))).RequireAuthorization(Policies.SignedIn);
        app.MapPut("/api/troubles/{cause}", TuneAsync).RequireAuthorization(Policies.Owner).Produces<TroublesAnswer>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<TroublesAnswer> AnswerAsync(TroubleStore troubles, FirmStore firms) =>
        new(TroubleRecord.Of(await troubles.ClosedAsync(await firms.GetAsync()), await troubles.TunedAsync()), await troubles.TunesAsync());

    private static async Task<IResult> TuneAsync(string cause, TuneEntry entry, ClaimsPrincipal user, TroubleStore troubles, FirmStore firms, TimeProvider clock)
    {
        if (Troubles.Causes.All(c => c.Code != cause))
            return Faults.Missing("cause");
        var errors = new EntryErrors();
        errors.Check("prior", entry.Prior, _prior);
        if (errors.Any)
            return Faults.Refused(errors);
        await troubles.TuneAsync(cause, entry.Prior, user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(await AnswerAsync(troubles, firms));
    }
}
