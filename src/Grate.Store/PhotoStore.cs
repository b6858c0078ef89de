using Dapper;
using Grate.Core;
using Npgsql;

namespace Grate.Store;

/// <summary>A photo of a visit, without its picture.</summary>
/// <param name="Id">Its id.</param>
/// <param name="VisitId">Its visit.</param>
/// <param name="Step">Word of the step.</param>
/// <param name="Station">Word of the station.</param>
/// <param name="Part">The part it shows.</param>
/// <param name="Width">Width, pixels.</param>
/// <param name="Height">Height, pixels.</param>
/// <param name="Sha256">SHA-256 over the picture, 64 hexadecimal digits.</param>
/// <param name="SavedAt">When.</param>
/// <param name="SavedBy">Who.</param>
public sealed record PhotoRow(Guid Id, Guid VisitId, string Step, string Station, string Part, int Width, int Height, string Sha256, DateTimeOffset SavedAt, string SavedBy);

/// <summary>Photos of visits: kept and taken away until the visit is signed.</summary>
public sealed class PhotoStore(NpgsqlDataSource database)
{
    /// <summary>Most photos of a visit.</summary>
    public const int MostPhotos = 60;

    /// <summary>Most bytes of a visit's photos.</summary>
    public const int MostBytes = 24_000_000;

    internal const string PhotoColumns = """
        select f.id, f.visit_id, f.step, f.station, f.part, f.width, f.height, encode(f.sha256, 'hex') as sha256, f.saved_at, p.name as saved_by
        from photos f join people p on p.id = f.saved_by
        """;

    /// <summary>Photos of visits in the order they were taken.</summary>
    public async Task<ILookup<Guid, PhotoRow>> OfAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<PhotoRow>($"{PhotoColumns} where f.visit_id = any(@visitIds) order by f.saved_at, f.id", new { visitIds })).ToLookup(p => p.VisitId);
    }

    /// <summary>The picture of a photo, or null where the visit has none of that id.</summary>
    public async Task<byte[]?> JpegAsync(Guid visitId, Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<byte[]>("select jpeg from photos where id = @id and visit_id = @visitId", new { id, visitId });
    }

    /// <summary>Keeps a photo; sent twice it is one.</summary>
    /// <param name="photo">What it shows; its hash is made by the database.</param>
    /// <param name="jpeg">The picture.</param>
    /// <param name="errors">Takes the refusal, by "photo", where the visit is full.</param>
    /// <param name="by">Who took it.</param>
    /// <returns>Null where it was refused.</returns>
    public async Task<SaveState?> KeepAsync(PhotoRow photo, byte[] jpeg, EntryErrors errors, Guid by)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var state = await VisitSave.LockAsync(connection, photo.VisitId);
        if (await connection.QuerySingleOrDefaultAsync<PhotoRow>($"{PhotoColumns} where f.id = @Id", photo) is { } there)
            return there.VisitId == photo.VisitId && there.Station == photo.Station && there.Part == photo.Part ? SaveState.Saved : SaveState.Reused;
        if (state == "signed")
            return SaveState.Signed;
        var (photos, bytes) = await connection.QuerySingleAsync<(int, long)>("select count(*)::int, coalesce(sum(length(jpeg)), 0)::bigint from photos where visit_id = @VisitId", photo);
        if (photos >= MostPhotos || bytes + jpeg.Length > MostBytes)
        {
            errors.Add("photo", $"A visit keeps at most {MostPhotos} photos and {MostBytes / 1_000_000} MB of them: take one away first.");
            return null;
        }
        await connection.ExecuteAsync("""
            insert into photos (id, visit_id, step, station, part, width, height, jpeg, saved_at, saved_by)
            values (@Id, @VisitId, @Step, @Station, @Part, @Width, @Height, @jpeg, @SavedAt, @by)
            """, new { photo.Id, photo.VisitId, photo.Step, photo.Station, photo.Part, photo.Width, photo.Height, jpeg, photo.SavedAt, by });
        await transaction.CommitAsync();
        return SaveState.Saved;
    }

    /// <summary>Takes a photo away; one that is not there is away already.</summary>
    public async Task<SaveState> DropAsync(Guid visitId, Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await VisitSave.LockAsync(connection, visitId) == "signed")
            return SaveState.Signed;
        await connection.ExecuteAsync("delete from photos where id = @id and visit_id = @visitId", new { id, visitId });
        await transaction.CommitAsync();
        return SaveState.Saved;
    }
}
