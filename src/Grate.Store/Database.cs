using System.Data;
using Dapper;
using DbUp;
using DbUp.Engine;

namespace Grate.Store;

/// <summary>Schema and type mapping of the database.</summary>
public static class Database
{
    /// <summary>SQLSTATE raised by the database's own guard of signed visits.</summary>
    public const string SignedVisitState = "GR001";

    /// <summary>Brings the schema up to date; migrations only go forward.</summary>
    /// <param name="connectionString">Npgsql connection string.</param>
    /// <exception cref="InvalidOperationException">A migration failed; nothing of it was kept.</exception>
    public static void Migrate(string connectionString)
    {
        var upgrade = DeployChanges.To.PostgresqlDatabase(connectionString)
            .WithScriptsAndCodeEmbeddedInAssembly(typeof(Database).Assembly)
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build();
        DatabaseUpgradeResult result = upgrade.PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException($"Migration {result.ErrorScript?.Name} failed.", result.Error);
    }

    /// <summary>Tells Dapper how columns and types are named here; once per process.</summary>
    public static void MapTypes()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new DateOnlyHandler());
        SqlMapper.AddTypeHandler(new InstantHandler());
        SqlMapper.AddTypeHandler(new ArrayHandler<double>());
        SqlMapper.AddTypeHandler(new ArrayHandler<string>());
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
