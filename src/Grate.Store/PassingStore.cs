using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Households, houses and stoves that pass: records joined, people moved out, stoves replaced, households forgotten. Nothing with a signed visit is deleted.</summary>
public sealed class PassingStore(NpgsqlDataSource database)
{
    /// <summary>Joins another record of the same household into one: its houses and numbers pass to it. Done twice it is done once.</summary>
    /// <param name="id">The household that stays.</param>
    /// <param name="otherId">The other record of it.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    public async Task<BookState> JoinAsync(Guid id, Guid otherId, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Both in one order: two who join them the other way round wait for each other.
        var rows = (await connection.QueryAsync<(Guid Id, Guid? JoinedInto)>("select id, joined_into from customers where id = any(@ids) and forgotten_at is null order by id for update", new { ids = new[] { id, otherId } })).ToDictionary(r => r.Id, r => r.JoinedInto);
        if (rows.Count != 2 || rows[id] is not null)
            return BookState.Missing;
        if (rows[otherId] is { } into)
            return into == id ? BookState.Written : BookState.Missing;
        await connection.ExecuteAsync("""
            update sites set customer_id = @id, version = version + 1 where customer_id = @otherId;
            update customers set joined_into = @id, version = version + 1 where id = @otherId;
            update customers set joined_into = @id where joined_into = @otherId;
            update customers c set version = c.version + 1,
                email = case when c.email = '' then o.email else c.email end,
                note = left(concat_ws(E'\n', nullif(c.note, ''), nullif(o.note, '')), 2000),
                contacts = c.contacts || o.contacts || case when (o.phone <> '' and o.phone <> c.phone) or (o.email <> '' and c.email <> '' and o.email <> c.email)
                    then jsonb_build_array(jsonb_build_object('whose', left(o.name, 100), 'phone', case when o.phone = c.phone then '' else o.phone end, 'email', case when c.email = '' or o.email = c.email then '' else o.email end)) else '[]' end
            from customers o where c.id = @id and o.id = @otherId;
            update house_passages set from_customer = @id where from_customer = @otherId;
            """, new { id, otherId });
        await BookStore.LogAsync(connection, id, by, at, "Joined with another record of the same household.", null, new { otherId });
        await BookStore.LogAsync(connection, otherId, by, at, "Joined into another record of the same household.", null, new { id });
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>A household moves out of a house, which passes to another; the pages and dates that the first was given end. Sent twice it is one.</summary>
    /// <param name="id">Who moves out.</param>
    /// <param name="houseId">Of which house.</param>
    /// <param name="next">Who lives there now.</param>
    /// <param name="sold">Whether the house was sold: its flues are looked through then.</param>
    /// <param name="today">Today at the firm's place.</param>
    /// <param name="by">Who writes it down.</param>
    /// <param name="at">When.</param>
    public async Task<BookState> MoveOutAsync(Guid id, Guid houseId, Customer next, bool sold, DateOnly today, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var owner = await connection.QuerySingleOrDefaultAsync<Guid?>("select customer_id from sites where id = @houseId for update", new { houseId });
        if (owner == next.Id)
            return BookState.Written;
        if (owner != id)
            return BookState.Missing;
        if (await connection.QuerySingleAsync<bool>("select exists (select from visits v join appliances a on a.id = v.appliance_id where a.site_id = @houseId and v.state = 'open')", new { houseId }))
            return BookState.Visited;
        try
        {
            await BookStore.AddCustomerAsync(connection, next);
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return BookState.Reused;
        }
        await connection.ExecuteAsync("""
            insert into house_passages (house_id, from_customer, to_customer, at) values (@houseId, @id, @to, @at);
            update sites set customer_id = @to, version = version + 1 where id = @houseId;
            update household_links set withdrawn_at = @at where withdrawn_at is null and appliance_id in (select id from appliances where site_id = @houseId);
            update visit_links set ends_at = least(ends_at, @at) where visit_id in (select v.id from visits v join appliances a on a.id = v.appliance_id where a.site_id = @houseId);
            update calls set closed_at = @at, closed_why = 'the household moved out' where visit_id is null and closed_at is null and appliance_id in (select id from appliances where site_id = @houseId);
            """, new { houseId, id, to = next.Id, at });
        if (sold)
            await connection.ExecuteAsync("update appliances set look_since = @today, look_why = 'the house was sold', version = version + 1 where site_id = @houseId and out_at is null", new { houseId, today });
        await connection.ExecuteAsync("select stove_words(id) from appliances where site_id = @houseId and out_at is null", new { houseId });
        await BookStore.LogAsync(connection, id, by, at, "Moved out; the house passed to another household.", null, null);
        await BookStore.LogAsync(connection, next.Id, by, at, sold ? "Moved in; the house was sold." : "Moved in.", null, next);
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>Another stove takes the place of one, on the same flue: what was found in the flue stays with it, and it is to be looked through. Sent twice it is one.</summary>
    /// <param name="oldId">The stove that goes.</param>
    /// <param name="stove">The one that comes.</param>
    /// <param name="serial">Its serial number.</param>
    /// <param name="assumed">What nobody told of it.</param>
    /// <param name="flue">The flue that stays, as a version of its own.</param>
    /// <param name="today">Today at the firm's place.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    public async Task<BookState> ReplaceAsync(Guid oldId, Stove stove, string serial, IReadOnlyList<string> assumed, FlueVersion flue, DateOnly today, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<(Guid House, Guid Customer, string Model, bool Out)?>("""
            select s.id, s.customer_id, a.model, a.out_at is not null from appliances a join sites s on s.id = a.site_id where a.id = @oldId for update of a
            """, new { oldId }) is not var (house, customer, model, isOut))
        {
            return BookState.Missing;
        }
        if (await connection.QuerySingleAsync<bool>("select exists (select from appliances where id = @Id and @oldId = any(stood_before))", new { stove.Id, oldId }))
            return BookState.Written;
        if (isOut)
            return BookState.Missing;
        if (await connection.QuerySingleAsync<bool>("select exists (select from visits where appliance_id = @oldId and state = 'open')", new { oldId }))
            return BookState.Visited;
        try
        {
            await BookStore.AddStoveAsync(connection, house, stove, serial, flue, assumed);
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return BookState.Reused;
        }
        await connection.ExecuteAsync("""
            update appliances n set stood_before = o.stood_before || o.id, look_since = @today, look_why = 'another stove on it' from appliances o where n.id = @Id and o.id = @oldId;
            update appliances set out_at = @at, out_why = 'replaced', version = version + 1 where id = @oldId;
            delete from due_visits where appliance_id = @oldId;
            delete from due_stoves where appliance_id = @oldId;
            """, new { stove.Id, oldId, today, at });
        await BookStore.LogAsync(connection, customer, by, at, $"{model}: replaced by a {stove.Model}, on the same flue.", null, stove);
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>Forgets a household: names, numbers and words go; what was measured stays with its flue.</summary>
    /// <returns>False where there is none, or it is another's record now.</returns>
    public async Task<bool> ForgetAsync(Guid id, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<Guid?>("select id from customers where id = @id and joined_into is null for update", new { id }) is null)
            return false;
        await connection.ExecuteAsync("select forget_household(@id, @at)", new { id, at });
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Everything that is kept of a household, as one JSON document: what it may ask for.</summary>
    /// <returns>The document, or null.</returns>
    public async Task<string?> EverythingAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<string>($"""
            select json_build_object('household', {HistoryStore.CustomerJson},
                'houses', (select coalesce(json_agg(json_build_object('house', {HistoryStore.HouseJson},
                    'stoves', (select coalesce(json_agg(json_build_object('stove', {HistoryStore.StoveJson}, 'serial', a.serial, 'outAt', a.out_at, 'outWhy', a.out_why,
                        'visits', (select coalesce(json_agg(json_build_object('plannedStart', v.planned_start, 'purpose', v.purpose, 'complaint', v.complaint, 'state', v.state, 'signedAt', v.signed_at,
                                'findings', (select coalesce(json_agg(json_build_object('part', f.part, 'condition', f.condition, 'note', f.note) order by f.part), '[]') from findings f where f.visit_id = v.id),
                                'stations', (select coalesce(json_agg(json_build_object('station', e.station, 'step', e.step, 'entry', e.entry, 'sentences', e.sentences) order by e.saved_at), '[]') from station_entries e where e.visit_id = v.id),
                                'notes', (select coalesce(json_agg(json_build_object('step', p.step, 'note', p.note)), '[]') from visit_steps p where p.visit_id = v.id and p.note <> ''),
                                'additions', (select coalesce(json_agg(json_build_object('at', d.written_at, 'text', d.text)), '[]') from visit_additions d where d.visit_id = v.id),
                                'photos', (select count(*) from photos f where f.visit_id = v.id),
                                'plan', (select coalesce(json_agg(json_build_object('at', l.at, 'what', l.what) order by l.at), '[]') from visit_log l where l.visit_id = v.id)) order by v.planned_start), '[]')
                            from visits v where v.appliance_id = a.id and v.planned_start >= l.since and v.planned_start < l.until),
                        'calls', (select coalesce(json_agg(json_build_object('at', w.taken_at, 'words', w.words, 'wish', w.wish, 'closedWhy', w.closed_why) order by w.taken_at), '[]') from calls w where w.appliance_id = a.id and w.taken_at >= l.since and w.taken_at < l.until),
                        'told', (select coalesce(json_agg(json_build_object('at', n.at, 'kind', n.kind, 'kg', n.kg, 'hours', n.hours, 'coals', n.coals, 'days', n.days, 'text', n.text, 'picture', n.jpeg is not null) order by n.at), '[]') from household_notes n where n.appliance_id = a.id and n.at >= l.since and n.at < l.until))
                        order by a.id), '[]') from appliances a where a.site_id = s.id)) order by s.place, s.street), '[]')
                    from (
                        select h.id as house, coalesce((select max(p.at) from house_passages p where p.house_id = h.id), '-infinity') as since, 'infinity'::timestamptz as until from sites h where h.customer_id = c.id
                        union all
                        select p.house_id, coalesce((select max(q.at) from house_passages q where q.house_id = p.house_id and q.at < p.at), '-infinity'), p.at from house_passages p where p.from_customer = c.id) l
                    join sites s on s.id = l.house),
                'log', (select coalesce(json_agg(json_build_object('at', b.at, 'what', b.what, 'before', b.before, 'after', b.after) order by b.at), '[]') from book_log b where b.customer_id = c.id))::text
            from customers c where c.id = @id
            """, new { id });
    }
}
