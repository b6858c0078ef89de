using System.Data;
using Dapper;
using DbUp;
using DbUp.Engine;
using Npgsql;

namespace Grate.Store;

/// <summary>Schema and type mapping of the database.</summary>
public static class Database
{
    /// <summary>SQLSTATE raised by the database's own guard of signed visits.</summary>
    public const string SignedVisitState = "GR001";

    /// <summary>SQLSTATE raised where something is written into a cancelled visit.</summary>
    public const string CancelledVisitState = "GR002";

    /// <summary>SQLSTATE of a disk that is full: PostgreSQL's disk_full.</summary>
    public const string DiskFullState = "53100";

    private const long Turn = 8420;

    /// <summary>Brings the schema up to date; migrations only go forward.</summary>
    /// <param name="owner">Connection string of the role that owns the tables.</param>
    /// <param name="serves">Role that serves: it gets what serving needs and no more; null where the owner serves itself.</param>
    /// <exception cref="InvalidOperationException">A migration failed; nothing of it was kept.</exception>
    public static void Migrate(string owner, string? serves = null)
    {
        // Servers that start together take turns; the lock goes with the connection.
        using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(owner) { Pooling = false }.ConnectionString);
        connection.Open();
        connection.Execute("select pg_advisory_lock(@Turn)", new { Turn }, commandTimeout: 0);
        var upgrade = DeployChanges.To.PostgresqlDatabase(owner)
            .WithScriptsAndCodeEmbeddedInAssembly(typeof(Database).Assembly)
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build();
        DatabaseUpgradeResult result = upgrade.PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException($"Migration {result.ErrorScript?.Name} failed.", result.Error);
        if (serves is null)
            return;
        connection.Execute("select set_config('grate.serves', @serves, false)", new { serves });
        connection.Execute("""
            do $$
            declare serves text := current_setting('grate.serves');
            begin
                execute format('grant usage on schema public to %I', serves);
                execute format('grant select, insert, update, delete on all tables in schema public to %I', serves);
                execute format('revoke insert, update, delete on schemaversions, restorations from %I', serves);
                execute format('revoke update, delete on signed_visits, visit_additions, flue_versions, flue_segments, stock_log, book_log, visit_log from %I', serves);
                execute format('revoke delete on visits, safety_stops, people, customers, sites, appliances, firm, stock_pieces, purchases, imports from %I', serves);
            end $$
            """);
    }

    /// <summary>Whether a fault is that of a database that does not answer, rather than of what was asked of it.</summary>
    public static bool Away(Exception fault) => fault switch
    {
        // Connections, resources, interventions, the system, locks: classes 08, 53, 57, 58, 40 and 55; 28 and 3D while a database is being set up.
        PostgresException { SqlState: DiskFullState } => false,
        PostgresException { SqlState: var state } => state[..2] is "08" or "28" or "3D" or "40" or "53" or "55" or "57" or "58",
        NpgsqlException or TimeoutException => true,
        _ => false,
    };

    /// <summary>Tells Dapper how columns and types are named here; once per process.</summary>
    public static void MapTypes()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new DateOnlyHandler());
        SqlMapper.AddTypeHandler(new InstantHandler());
        SqlMapper.AddTypeHandler(new ArrayHandler<double>());
        SqlMapper.AddTypeHandler(new ArrayHandler<string>());
        SqlMapper.AddTypeHandler(new ArrayHandler<Guid>());
    }

    private sealed class DateOnlyHandler : SqlMapper.TypeHandler<DateOnly>
    {
        public override void SetValue(IDbDataParameter parameter, DateOnly value) => parameter.Value = value;

        public override DateOnly Parse(object value) => value is DateOnly day ? day : DateOnly.FromDateTime((DateTime)value);
    }

    // An instant is UTC, in the database and here.
    private sealed class InstantHandler : SqlMapper.TypeHandler<DateTimeOffset>
    {
        public override void SetValue(IDbDataParameter parameter, DateTimeOffset value) => parameter.Value = value.UtcDateTime;

        public override DateTimeOffset Parse(object value) => new(DateTime.SpecifyKind((DateTime)value, DateTimeKind.Utc));
    }

    // Npgsql names every array column System.Array; this tells Dapper what is in it.
    private sealed class ArrayHandler<T> : SqlMapper.TypeHandler<T[]>
    {
        public override void SetValue(IDbDataParameter parameter, T[]? value) => parameter.Value = value;

        public override T[] Parse(object value) => (T[])value;
    }
}
