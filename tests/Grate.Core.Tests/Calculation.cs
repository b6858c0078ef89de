namespace Grate.Core.Tests;

/// <summary>A calculation as the contract asks it: an answer, or refusals by field.</summary>
internal static class Calculation
{
    /// <summary>Its answer; nothing is refused.</summary>
    public static T Answered<T>(Func<EntryErrors, T?> ask)
        where T : class
    {
        var errors = new EntryErrors();
        var answer = ask(errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    /// <summary>Its refusals; there is no answer.</summary>
    public static Dictionary<string, string[]> Refusals<T>(Func<EntryErrors, T?> ask)
        where T : class
    {
        var errors = new EntryErrors();
        Assert.Null(ask(errors));
        return errors.ByField;
    }
}
