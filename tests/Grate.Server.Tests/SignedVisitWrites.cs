using Npgsql;

namespace Grate.Server.Tests;

/// <summary>What somebody who got hold of the serving role would try on a signed visit.</summary>
internal static class SignedVisitWrites
{
    /// <summary>Tries every one of them, each alone and behind a setting that anybody can make.</summary>
    /// <param name="serving">Connection of the serving role.</param>
    /// <param name="visit">A signed visit with findings, stops, an addition and a flue.</param>
    /// <param name="open">An open visit with a finding and the step air.</param>
    /// <returns>What was tried, and what the database said: a state, or how many rows it changed.</returns>
    public static async Task<IReadOnlyList<(string Sql, string Said)>> TryAsync(string serving, string visit, string open)
    {
        var outcomes = new List<(string, string)>();
        foreach (var sql in Writes(visit, open).SelectMany(w => (string[])[w, $"set grate.forgets = 'yes'; {w}", $"set grate.restores = 'yes'; {w}"]))
            outcomes.Add((sql, await WriteAsync(serving, sql)));
        return outcomes;
    }

    /// <summary>Writes something; the state of the refusal, or how many rows were changed.</summary>
    public static async Task<string> WriteAsync(string connectionString, string sql)
    {
        await using var connection = new NpgsqlConnection(connectionString);
        await connection.OpenAsync();
        try
        {
            await using var command = new NpgsqlCommand(sql, connection);
            return $"{await command.ExecuteNonQueryAsync()} rows: {sql}";
        }
        catch (PostgresException fault)
        {
            return fault.SqlState;
        }
    }

    private static string[] Writes(string visit, string open) =>
    [
        $"update visits set purpose = 'x' where id = '{visit}'",
        $"update visits set state = 'open', signed_at = null, signed_by = null, next_inspection = null where id = '{visit}'",
        $"delete from visits where id = '{visit}'",
        $"update findings set visit_id = '{open}' where visit_id = '{visit}'",
        $"update findings set visit_id = '{visit}' where visit_id = '{open}'",
        $"delete from findings where visit_id = '{visit}'",
        $"update visit_steps set visit_id = '{open}', step = 'booking' where visit_id = '{visit}' and step = 'air'",
        $"update visit_steps set visit_id = '{visit}', step = 'next' where visit_id = '{open}' and step = 'air'",
        $"update station_entries set sentences = '[]' where visit_id = '{visit}'",
        $"update station_facts set value = 1 where visit_id = '{visit}'",
        $"insert into station_facts (visit_id, step, station, name, value) values ('{visit}', 'hot-test', 'hot-draft', 'x', 1)",
        $"update visit_additions set text = 'x' where visit_id = '{visit}'",
        $"delete from visit_additions where visit_id = '{visit}'",
        $"update flue_segments s set rise_m = 1 from visits v where v.id = '{visit}' and s.version_id = v.flue_version_id",
        $"delete from flue_segments s using visits v where v.id = '{visit}' and s.version_id = v.flue_version_id",
        $"insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings) select flue_version_id, 59, 'more', 'insulated-50', 0.15, 1, 1, 'outdoor' from visits where id = '{visit}'",
        $"update flue_versions f set cap = 'cowl' from visits v where v.id = '{visit}' and f.id = v.flue_version_id",
        $"delete from safety_stops where visit_id = '{visit}'",
        $"update safety_stops set code = 'other' where visit_id = '{visit}'",
        $"update safety_stops set visit_id = '{open}' where visit_id = '{visit}'",
        $"update signed_visits set shown = '{{}}' where visit_id = '{visit}'",
        $"delete from signed_visits where visit_id = '{visit}'",
        "truncate visit_additions",
        "alter table findings disable trigger all",
        "set session_replication_role = replica",
        "drop trigger signed_finding on findings",
    ];
}
