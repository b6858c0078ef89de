using Grate.Store;
using Npgsql;
using Quartz;

namespace Grate.Server.Features.Service;

/// <summary>
/// Computes what is due for every stove once a day. Every server looks every hour whether the firm's new day has been
/// worked through, and at its start; the first one to look does the work.
/// </summary>
[DisallowConcurrentExecution]
public sealed class NightlyRun(DueStore due, DueKeeper keeper, StockStore stock, FirmStore firms, TimeProvider clock, ILogger<NightlyRun> log) : IJob
{
    /// <inheritdoc/>
    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) => await RunAsync(cancellationToken);

    /// <summary>Does the day's work if nobody did.</summary>
    public async Task RunAsync(CancellationToken end)
    {
        try
        {
            if (await firms.FindAsync() is not { } firm)
                return;
            var day = firm.Day(clock.GetUtcNow());
            if (await due.OnceADayAsync(day, () => AllAsync(firm, day, end)) is { } stoves)
                log.LogInformation("What is due on {Day} was computed for {Stoves} stoves", day, stoves);
        }
        catch (NpgsqlException fault)
        {
            log.LogWarning("What is due was not computed, the database does not answer: {Reason}", fault.Message);
        }
    }

    // First how long parts last: dates rest on it.
    private async Task<int> AllAsync(Firm firm, DateOnly day, CancellationToken end)
    {
        await stock.LearnLivesAsync(firm, day);
        return await keeper.AllAsync(day, end);
    }
}

/// <summary>The schedule.</summary>
public static class NightlySchedule
{
    /// <summary>Adds the nightly run.</summary>
    public static void AddNightlyRun(this IServiceCollection services)
    {
        services.AddQuartz(quartz => quartz.ScheduleJob<NightlyRun>(trigger => trigger.StartNow()
            .WithSimpleSchedule(schedule => schedule.WithInterval(TimeSpan.FromHours(1)).RepeatForever())));
        services.AddQuartzHostedService(hosted => hosted.WaitForJobsToComplete = true);
    }
}
