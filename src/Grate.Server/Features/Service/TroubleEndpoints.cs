using System.Security.Claims;
using Grate.Core;
using Grate.Core.Diagnosis;
using Grate.Server.Access;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>A change of a number in the table.</summary>
/// <param name="What">Its name there.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Value">The firm's own number; null as shipped again.</param>
/// <param name="At">When it was set.</param>
/// <param name="By">Who set it.</param>
public sealed record NamedTune(string What, string Name, double? Value, DateTimeOffset At, string By);

/// <summary>The firm's troubles, and what was said of numbers in their table.</summary>
/// <param name="Record">What they were.</param>
/// <param name="Tunes">What was said, newest first.</param>
public sealed record TroublesAnswer(TroubleRecord Record, IReadOnlyList<NamedTune> Tunes);

/// <summary>A number of the table of troubles.</summary>
/// <param name="Value">From and to as <see cref="TableNumber"/> says; null as shipped.</param>
public sealed record TuneEntry(double? Value = null);

/// <summary>What the firm's troubles were, how good the first suspects, and the firm's own numbers.</summary>
public static class TroubleEndpoints
{
    /// <summary>Maps /api/troubles.</summary>
    public static void MapTroubles(this WebApplication app)
    {
        app.MapGet("/api/troubles", async (TroubleStore troubles, FirmStore firms) => TypedResults.Ok(await AnswerAsync(troubles, firms))).RequireAuthorization(Policies.SignedIn);
        app.MapPut("/api/troubles/{what}", TuneAsync).RequireAuthorization(Policies.Owner).Produces<TroublesAnswer>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<TroublesAnswer> AnswerAsync(TroubleStore troubles, FirmStore firms) =>
        new(TroubleRecord.Of(await troubles.ClosedAsync(await firms.GetAsync()), new(await troubles.TunedAsync())), [.. (await troubles.TunesAsync()).Select(t => new NamedTune(t.What, FirmTroubles.NameOf(t.What), t.Value, t.At, t.By))]);

    private static async Task<IResult> TuneAsync(string what, TuneEntry entry, ClaimsPrincipal user, TroubleStore troubles, FirmStore firms, TimeProvider clock)
    {
        if (FirmTroubles.Shipped.Find(what) is not { } number)
            return Faults.Missing("number of the table");
        var errors = new EntryErrors();
        errors.Check("value", entry.Value, new(FirmTroubles.NameOf(what), what.StartsWith("minutes", StringComparison.Ordinal) ? Quantity.Count : Quantity.Ratio, number.From, number.To));
        if (errors.Any)
            return Faults.Refused(errors);
        await troubles.TuneAsync(what, entry.Value, user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(await AnswerAsync(troubles, firms));
    }
}
