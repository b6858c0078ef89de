using System.Data;
using System.Globalization;
using System.Text;
using DbUp.Engine;
using Grate.Core;
using Grate.Core.Fuel;

namespace Grate.Store.Migrations;

/// <summary>
/// After 006: the facts of wood that was recorded before there were facts. Cords, bags and meter readings are not turned into
/// kilograms and moisture by SQL. The name sorts behind the numbered scripts.
/// </summary>
public sealed class WoodFacts : IScript
{
    /// <inheritdoc/>
    public string ProvideScript(Func<IDbCommand> dbCommandFactory)
    {
        var (station, script) = (new WoodStation(), new StringBuilder("alter table station_facts disable trigger signed_fact;\n"));
        using var command = dbCommandFactory();
        command.CommandText = "select e.visit_id, e.entry::text from station_entries e where e.station = 'wood' and not exists (select 1 from station_facts f where f.visit_id = e.visit_id and f.station = 'wood')";
        using var rows = command.ExecuteReader();
        while (rows.Read())
        {
            var record = station.Read(rows.GetString(1), 1);
            foreach (var fact in WoodAnswer.To(record, new EntryErrors(), UnitSystem.Metric) is { } answer ? station.Facts(record, answer) : [])
            {
                script.Append(CultureInfo.InvariantCulture, $"insert into station_facts (visit_id, step, station, name, value, word) values ('{rows.GetGuid(0)}', 'arrive', 'wood', '{fact.Name}', ")
                    .Append(fact.Value is { } value ? value.ToString("R", CultureInfo.InvariantCulture) : "null")
                    .Append(fact.Word is { } word ? $", '{word.Replace("'", "''", StringComparison.Ordinal)}');\n" : ", null);\n");
            }
        }
        return script.Append("alter table station_facts enable trigger signed_fact;\n").ToString();
    }
}
