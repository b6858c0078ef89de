using System.Security.Claims;
using Grate.Core;
using Grate.Core.Combustor;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Visits;

/// <summary>Photos of a visit: taken or picked, shown beside their part, taken away until the visit is signed.</summary>
public static class PhotoEndpoints
{
    private const string Jpeg = "image/jpeg";

    /// <summary>Maps the photos' endpoints.</summary>
    public static void MapPhotos(this WebApplication app)
    {
        const string address = "/api/visits/{id:guid}/photos/{photoId:guid}";
        app.MapGet(address, ReadAsync).RequireAuthorization(Policies.SignedIn).Produces(200, contentType: Jpeg).ProducesProblem(404);
        var writes = app.MapGroup(address).RequireAuthorization(Policies.Field).AddEndpointFilter<MayWriteFilter>();
        writes.MapPut("", KeepAsync).WithMetadata(new BodyLimit(Picture.MostBytes, Picture.TooLarge)).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409).ProducesProblem(413).TakesFile("image/*");
        app.MapPost($"{address}/light-test", LightTestAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate)
            .Produces<LightTestAnswer>().ProducesValidationProblem().ProducesProblem(404);
        writes.MapDelete("", DropAsync).Produces(204).ProducesProblem(404).ProducesProblem(409);
    }

    private static async Task<IResult> ReadAsync(Guid id, Guid photoId, HttpResponse response, PhotoStore photos)
    {
        if (await photos.JpegAsync(id, photoId) is not { } jpeg)
            return Faults.Missing("photo");
        // A photo is never changed; shared caches keep none of a household.
        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.File(jpeg, Jpeg);
    }

    private static async Task<IResult> KeepAsync(Guid id, Guid photoId, [FromQuery] string? step, [FromQuery] string? station, [FromQuery] string? part,
        HttpRequest request, ClaimsPrincipal user, PhotoStore photos, Parts parts, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("photoId", photoId, "A photo");
        if (parts.Stations.FirstOrDefault(s => s.Code == station)?.Steps.Contains(step) is not true)
            errors.Add("station", "The station is missing, or not one of this step.");
        errors.CheckText("part", part, "What the photo shows", 60, needed: true);
        using var file = new MemoryStream();
        await request.Body.CopyToAsync(file);
        if (errors.Any || await Picture.ReadAsync(file.ToArray(), errors) is not { } picture)
            return Faults.Refused(errors);
        var row = new PhotoRow(photoId, id, step!, station!, part!.Trim(), picture.Width, picture.Height, "", clock.GetUtcNow(), user.Name());
        return await photos.KeepAsync(row, picture.Jpeg, errors, user.PersonId()) switch
        {
            SaveState.Saved => TypedResults.NoContent(),
            SaveState.Signed => Saving.Signed(),
            null => Faults.Refused(errors),
            _ => Saving.Reused(),
        };
    }

    // Of a combustor before a lamp; nothing is kept.
    private static async Task<IResult> LightTestAsync(Guid id, Guid photoId, LightTestEntry entry, PhotoStore photos)
    {
        if (await photos.JpegAsync(id, photoId) is not { } jpeg)
            return Faults.Missing("photo");
        var errors = new EntryErrors();
        return LightTestAnswer.To(entry, Picture.Brightness(jpeg), errors) is { } answer ? TypedResults.Ok(answer) : Faults.Refused(errors);
    }

    private static async Task<IResult> DropAsync(Guid id, Guid photoId, PhotoStore photos) =>
        await photos.DropAsync(id, photoId) == SaveState.Signed ? Saving.Signed() : TypedResults.NoContent();
}
