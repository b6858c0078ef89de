using System.Text;
using System.Text.Json;
using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>What became of an archive that was read back.</summary>
public enum ArchiveState
{
    /// <summary>It is in.</summary>
    Read,

    /// <summary>The firm has records of its own.</summary>
    NotEmpty,

    /// <summary>It is of another version, or no archive.</summary>
    Foreign,
}

/// <summary>
/// A firm's records as one JSON document, row by row as the tables hold them, and read back into an empty firm. What is secret, and what
/// is computed from the rest, stays out.
/// </summary>
public sealed class ArchiveStore(NpgsqlDataSource database)
{
    /// <summary>What an archive calls itself.</summary>
    public const string Format = "grate-archive";

    /// <summary>What the tables of an archive look like: counts with the migrations that change them.</summary>
    public const int Version = 31;

    private const int RowsAtOnce = 500;

    /// <summary>Tables of an archive, each after those that it refers to.</summary>
    public static IReadOnlyList<string> Tables { get; } =
    [
        "firm", "people", "imports", "customers", "sites", "site_obstacles", "house_passages", "book_log", "appliances", "flue_versions", "flue_segments", "visits", "visit_log", "visit_steps",
        "station_entries", "station_facts", "findings", "safety_stops", "photos", "visit_additions", "signed_visits", "calls", "absences", "household_notes", "inbox",
        "stock_pieces", "fitted_parts", "stock_log", "stock_offers", "purchases", "purchase_receipts", "prices", "price_log", "message_texts", "trouble_tunes",
    ];

    /// <summary>Tables that stay out: secrets and sessions, and what is computed from the others.</summary>
    public static IReadOnlyList<string> LeftOut { get; } =
    [
        "protection_keys", "sessions", "sign_in_tries", "invitations", "outgoing_messages", "calendar_feeds", "household_links", "visit_links",
        "stove_search", "visit_times", "due_stoves", "due_visits", "due_faults", "due_runs", "part_lives", "season_plans", "season_bricks", "restorations", "schemaversions",
    ];

    // Passwords stay here.
    private static string Row(string table) => table == "people" ? "to_jsonb(t) - 'password_hash' - 'security_stamp'" : "to_jsonb(t)";

    /// <summary>Writes the archive, row by row, as it stood at one moment.</summary>
    /// <param name="stream">Where to.</param>
    /// <param name="at">When it is made.</param>
    public async Task WriteAsync(Stream stream, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var moment = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        await using var text = new StreamWriter(stream, new UTF8Encoding(false), leaveOpen: true);
        await text.WriteAsync($"{{\"format\":\"{Format}\",\"version\":{Version},\"at\":\"{at:O}\",\"tables\":{{");
        foreach (var table in Tables)
        {
            await text.WriteAsync($"{(table == Tables[0] ? "" : ",")}\n\"{table}\":[");
            var first = true;
            await foreach (var row in connection.QueryUnbufferedAsync<string>($"select ({Row(table)})::text from {table} t"))
            {
                await text.WriteAsync(first ? "\n" : ",\n");
                await text.WriteAsync(row);
                first = false;
            }
            await text.WriteAsync("]");
        }
        await text.WriteAsync("}}\n");
    }

    /// <summary>Reads an archive back into a firm that has no household yet: all of it, or nothing. Whoever reads it back keeps their password.</summary>
    /// <param name="archive">The archive.</param>
    /// <param name="by">Who reads it back.</param>
    /// <param name="at">When.</param>
    /// <exception cref="PostgresException">A row that the tables refuse.</exception>
    public async Task<ArchiveState> ReadAsync(JsonDocument archive, Guid by, DateTimeOffset at)
    {
        if (archive.RootElement is not { ValueKind: JsonValueKind.Object } root || !root.TryGetProperty("format", out var format) || format.ValueKind != JsonValueKind.String || format.GetString() != Format
            || !root.TryGetProperty("version", out var version) || version.ValueKind != JsonValueKind.Number || !version.TryGetInt32(out var number) || number != Version
            || !root.TryGetProperty("tables", out var tables) || tables.ValueKind != JsonValueKind.Object || Tables.Any(t => !tables.TryGetProperty(t, out var rows) || rows.ValueKind != JsonValueKind.Array))
        {
            return ArchiveState.Foreign;
        }
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Two who read back at the same moment take turns; the second finds households.
        if (!await connection.QuerySingleAsync<bool>("select begin_restoration()"))
            return ArchiveState.NotEmpty;
        // Their address is the archive's again; who signed in here before takes its place there.
        await connection.ExecuteAsync("update people set email = id || '@replaced.example', normalized_email = upper(id || '@replaced.example') where id = @by", new { by });
        foreach (var table in Tables)
        {
            foreach (var rows in tables.GetProperty(table).EnumerateArray().Chunk(RowsAtOnce))
            {
                var some = $"[{string.Join(',', rows.Select(r => r.GetRawText()))}]";
                await connection.ExecuteAsync("select restore_rows(@table, @some::jsonb)", new { table, some }, commandTimeout: 0);
            }
        }
        // The archive's owner of the same name signs in with the password that counts here; without one, who read it back stays.
        var name = await connection.QuerySingleAsync<string>("select name from people where id = @by", new { by });
        if (await connection.QuerySingleOrDefaultAsync<Guid?>("select id from people where role = 'owner' and disabled_at is null and id <> @by order by lower(name) <> lower(@name), id limit 1", new { by, name }) is { } owner)
        {
            await connection.ExecuteAsync("""
                update people p set password_hash = b.password_hash, security_stamp = b.security_stamp from people b where p.id = @owner and b.id = @by;
                update people set disabled_at = @at, password_hash = null where id = @by;
                update sessions set ended_at = @at where person_id = @by and ended_at is null;
                """, new { owner, by, at });
        }
        await connection.ExecuteAsync("update due_runs set finished_at = null; select end_restoration();");
        await transaction.CommitAsync();
        return ArchiveState.Read;
    }

    /// <summary>The columns of an archive's tables, as a JSON Schema (draft 2020-12) tells them.</summary>
    public async Task<string> SchemaAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<string>("""
            with columns as (
                select c.table_name, c.column_name, c.ordinal_position, jsonb_build_object('type', to_jsonb(array_remove(array[case
                    when c.data_type in ('double precision', 'numeric') then 'number' when c.data_type in ('integer', 'bigint') then 'integer' when c.data_type = 'boolean' then 'boolean'
                    when c.data_type = 'ARRAY' then 'array' when c.data_type = 'jsonb' then null else 'string' end, case when c.is_nullable = 'YES' and c.data_type <> 'jsonb' then 'null' end], null)))
                    - case when c.data_type = 'jsonb' then 'type' else '' end
                    || case c.data_type when 'uuid' then '{"format": "uuid"}' when 'date' then '{"format": "date"}' when 'timestamp with time zone' then '{"format": "date-time"}' when 'bytea' then '{"pattern": "^\\\\x[0-9a-f]*$"}' else '{}' end::jsonb as says
                from information_schema.columns c where c.table_schema = 'public' and c.table_name = any(@tables) and not (c.table_name = 'people' and c.column_name in ('password_hash', 'security_stamp'))),
            tables as (
                select table_name, json_build_object('type', 'array', 'items', json_build_object('type', 'object', 'additionalProperties', false,
                    'required', json_agg(column_name order by ordinal_position), 'properties', json_object_agg(column_name, says order by ordinal_position))) as says
                from columns group by table_name)
            select json_build_object('$schema', 'https://json-schema.org/draft/2020-12/schema', 'title', 'A firm''s records', 'type', 'object', 'additionalProperties', false, 'required', json_build_array('format', 'version', 'at', 'tables'),
                'properties', json_build_object('format', json_build_object('const', @Format::text), 'version', json_build_object('const', @Version::int), 'at', json_build_object('type', 'string', 'format', 'date-time'),
                    'tables', json_build_object('type', 'object', 'additionalProperties', false, 'required', @tables, 'properties', (select json_object_agg(table_name, says order by array_position(@tables, table_name::text)) from tables))))::text
            """, new { tables = Tables.ToArray(), Format, Version });
    }
}
