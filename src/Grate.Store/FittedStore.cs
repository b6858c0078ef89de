using Dapper;
using Grate.Core;
using Grate.Core.Combustor;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove that has a part of a batch.</summary>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Model">Its model.</param>
/// <param name="Customer">Whose.</param>
/// <param name="Phone">Their number.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">And place.</param>
/// <param name="Name">The part.</param>
/// <param name="Batch">Its batch or serial number.</param>
/// <param name="FittedOn">Since when.</param>
public sealed record RecalledStove(Guid ApplianceId, string Model, string Customer, string Phone, string Street, string Place, string Name, string Batch, DateOnly FittedOn);

/// <summary>Parts on their stoves.</summary>
public sealed class FittedStore(NpgsqlDataSource database)
{
    /// <summary>Most stoves of a recall.</summary>
    public const int MostRecalled = 500;

    private sealed record Row(Guid Id, string Kind, string Name, string Batch, DateOnly FittedOn, DateOnly? WarrantyUntil, DateOnly? GoneOn)
    {
        public FittedPart Part() => new(Id, Word.Find<StockKind>(Kind)!.Value, Name, Batch, FittedOn, WarrantyUntil, GoneOn);
    }

    /// <summary>Parts of a stove, those that are in first, the newest first.</summary>
    public async Task<IReadOnlyList<FittedPart>> OfAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<Row>("""
            select id, kind, name, batch, fitted_on, warranty_until, gone_on from fitted_parts where appliance_id = @applianceId order by gone_on is not null, fitted_on desc, id
            """, new { applianceId })).Select(r => r.Part())];
    }

    /// <summary>When the hours of a stove's combustor end it, and when the visit was that reckoned it last; null where none did.</summary>
    public async Task<(DateOnly End, DateTimeOffset At)?> CombustorEndAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<(double Value, DateTimeOffset At)?>("""
            select x.value, v.planned_start from visits v join station_facts x on x.visit_id = v.id
            where v.appliance_id = @applianceId and v.state = 'signed' and x.name = @EndDay and x.value is not null order by v.planned_start desc limit 1
            """, new { applianceId, CombustorFacts.EndDay }) is var (day, at) ? (DateOnly.FromDayNumber((int)day), at) : null;
    }

    /// <summary>Keeps a part; sent twice it is one.</summary>
    /// <returns>False where there is no such stove, or the id is another part's.</returns>
    public async Task<bool> FitAsync(Guid applianceId, FittedPart part, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into fitted_parts (id, appliance_id, kind, name, batch, fitted_on, warranty_until, at, by)
            select @Id, a.id, @kind, @Name, @Batch, @FittedOn, @WarrantyUntil, @at, @by from appliances a where a.id = @applianceId on conflict (id) do nothing
            """, new { part.Id, applianceId, kind = Word.Of(part.Kind), part.Name, part.Batch, part.FittedOn, part.WarrantyUntil, at, by });
        return await connection.QuerySingleAsync<bool>("select exists (select from fitted_parts where id = @Id and appliance_id = @applianceId and name = @Name)", new { part.Id, applianceId, part.Name });
    }

    /// <summary>A part that is taken out.</summary>
    /// <returns>False where the stove has no such part, or it was fitted later.</returns>
    public async Task<bool> GoneAsync(Guid applianceId, Guid id, DateOnly on)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update fitted_parts set gone_on = coalesce(gone_on, @on) where id = @id and appliance_id = @applianceId and fitted_on <= @on", new { applianceId, id, on }) == 1;
    }

    /// <summary>Every stove that has a part of a batch, by place.</summary>
    public async Task<IReadOnlyList<RecalledStove>> RecallAsync(string batch)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<RecalledStove>("""
            select f.appliance_id, a.model, c.name as customer, c.phone, s.street, s.place, f.name, f.batch, f.fitted_on
            from fitted_parts f join appliances a on a.id = f.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
            where lower(f.batch) = lower(@batch) and f.batch <> '' and f.gone_on is null and a.out_at is null order by s.place, s.street, f.id limit @MostRecalled
            """, new { batch, MostRecalled })];
    }

    /// <summary>What lies in vans and store of a batch.</summary>
    public async Task<IReadOnlyList<Guid>> InStockAsync(string batch)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Guid>("select id from stock_pieces where lower(batch) = lower(@batch) and batch <> '' and amount > 0", new { batch })];
    }
}
