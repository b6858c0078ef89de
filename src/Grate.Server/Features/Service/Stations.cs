using Grate.Core;
using Grate.Server.Features.Flue;

namespace Grate.Server.Features.Service;

/// <summary>What a station's entries come to, as typed.</summary>
internal static class Stations
{
    /// <summary>Answers a question about the entries of a visit.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="units">Units of the sentences.</param>
    /// <param name="documents">Finds the visit.</param>
    /// <param name="compute">Asks the core; null where it refused.</param>
    public static async Task<IResult> AnswerAsync<TAnswer>(Guid id, string? units, VisitDocument documents,
        Func<VisitPlace, EntryErrors, UnitSystem, Task<TAnswer?>> compute)
        where TAnswer : class
    {
        if (await documents.FindAsync(id) is not { } at)
            return Faults.Missing("visit");
        var system = DraftEndpoints.SystemOf(units);
        var errors = new EntryErrors(system);
        return await compute(at, errors, system) is { } answer ? TypedResults.Ok(answer) : Faults.Refused(errors);
    }
}
