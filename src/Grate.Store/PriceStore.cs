using Dapper;
using Grate.Core;
using Npgsql;

namespace Grate.Store;

/// <summary>The firm's prices.</summary>
public sealed class PriceStore(NpgsqlDataSource database)
{
    private sealed record Row(string Thing, double? Price);

    /// <summary>Every price, also of what has none.</summary>
    public async Task<IReadOnlyList<FirmPrice>> AllAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        var set = (await connection.QueryAsync<Row>("select thing, price from prices")).ToDictionary(r => r.Thing, r => r.Price);
        return [.. Enum.GetValues<PricedThing>().Select(thing => new FirmPrice(thing, Word.Said(thing), set.GetValueOrDefault(Word.Of(thing))))];
    }

    /// <summary>Sets a price, or takes it away by null; who did and what it was stays.</summary>
    public async Task SetAsync(PricedThing thing, double? price, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await SetAsync(connection, thing, price, by, at);
        await transaction.CommitAsync();
    }

    internal static Task SetAsync(NpgsqlConnection connection, PricedThing thing, double? price, Guid by, DateTimeOffset at) => connection.ExecuteAsync("""
        insert into price_log (thing, before, after, at, by) select @word, (select price from prices where thing = @word), @price, @at, @by;
        insert into prices (thing, price) values (@word, @price) on conflict (thing) do update set price = excluded.price
        """, new { word = Word.Of(thing), price, at, by });
}
