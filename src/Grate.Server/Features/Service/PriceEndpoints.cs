using System.Security.Claims;
using Grate.Core;
using Grate.Server.Access;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>A price as set.</summary>
/// <param name="Price">0..1 000 000; null takes it away.</param>
public sealed record PriceSet(double? Price = null);

/// <summary>The firm's prices: read by everybody, set at the desk.</summary>
public static class PriceEndpoints
{
    /// <summary>Maps /api/prices.</summary>
    public static void MapPrices(this WebApplication app)
    {
        app.MapGet("/api/prices", async (PriceStore prices) => TypedResults.Ok(await prices.AllAsync())).RequireAuthorization(Policies.SignedIn);
        app.MapPut("/api/prices/{thing}", SetAsync).RequireAuthorization(Policies.Desk).Produces<IReadOnlyList<FirmPrice>>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> SetAsync(string thing, PriceSet body, ClaimsPrincipal user, PriceStore prices, TimeProvider clock)
    {
        if (Word.Find<PricedThing>(thing) is not { } of)
            return Faults.Missing("thing with a price");
        var errors = new EntryErrors();
        errors.Check("price", body.Price, EntryRange.Price);
        if (errors.Any)
            return Faults.Refused(errors);
        await prices.SetAsync(of, body.Price, user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(await prices.AllAsync());
    }
}
