using Grate.Server.Features.Service;
using Grate.Store;
using Grate.Store.Demo;
using Npgsql;

namespace Grate.Server;

/// <summary>Keeps the demo's round on today's date while the server runs over midnight.</summary>
public sealed class DemoClock(NpgsqlDataSource database, FirmStore firms, TimeProvider clock, ILogger<DemoClock> log) : BackgroundService
{
    private static readonly TimeSpan _look = TimeSpan.FromMinutes(5);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(_look, clock);
        do
        {
            try
            {
                if (await firms.FindAsync() is { Demo: true } firm)
                    await new DemoRound(database, firm).KeepTodayAsync(firm.Day(clock.GetUtcNow()));
            }
            catch (NpgsqlException fault)
            {
                log.LogWarning("The demo's round was not moved, the database does not answer: {Reason}", fault.Message);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}

/// <summary>Loads the demo.</summary>
public static class DemoLoading
{
    /// <summary>Loads demo data if the database holds no firm.</summary>
    public static async Task LoadDemoAsync(this IServiceProvider services)
    {
        if (await services.GetRequiredService<FirmStore>().FindAsync() is not null)
            return;
        var now = services.GetRequiredService<TimeProvider>().GetUtcNow();
        try
        {
            await new DemoData(services.GetRequiredService<NpgsqlDataSource>()).LoadAsync(now);
        }
        catch (PostgresException fault) when (fault is { SqlState: PostgresErrorCodes.UniqueViolation, ConstraintName: "firm_pkey" })
        {
            // Another server, started at the same time, has loaded it.
            return;
        }
        await services.GetRequiredService<NightlyRun>().RunAsync(CancellationToken.None);
    }
}
