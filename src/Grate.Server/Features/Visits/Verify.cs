using Grate.Store;

namespace Grate.Server.Features.Visits;

/// <summary>Looks through all signed visits from the command line: verify.</summary>
public static class Verify
{
    /// <summary>Says how many visits are signed and which of them are not as they were signed.</summary>
    /// <param name="services">The server's services.</param>
    /// <param name="answer">Takes one sentence a line.</param>
    /// <returns>0 if all are as signed; 1 otherwise.</returns>
    public static async Task<int> VerifyAsync(this IServiceProvider services, TextWriter answer)
    {
        var (signed, broken) = await services.GetRequiredService<SealStore>().VerifyAsync();
        foreach (var visit in broken)
            await answer.WriteLineAsync($"{visit.Stove}: visit {visit.VisitId} {visit.What}.");
        await answer.WriteLineAsync(broken.Count == 0 ? $"{signed} signed visits, all as they were signed." : $"{signed} signed visits, {broken.Count} of them not as they were signed.");
        return broken.Count == 0 ? 0 : 1;
    }
}
