namespace Grate.Core.Visits;

/// <summary>What cannot wait, in the order of its danger.</summary>
[JsonConverter(typeof(WordConverter<EmergencyKind>))]
public enum EmergencyKind
{
    /// <summary>Carbon monoxide.</summary>
    Co,

    /// <summary>The soot in the flue burns.</summary>
    ChimneyFire,

    /// <summary>Smoke in the room.</summary>
    Smoke,
}

/// <summary>
/// What is told where life is in danger: the same words on the call page, in the suspects, in the report and on the household's page,
/// whose language files carry them as card.KIND.1, 2 … (handbook 11 section 2; everybody out comes first, and nothing is done in between).
/// </summary>
/// <param name="Kind">What happens.</param>
/// <param name="Name">How it is noticed.</param>
/// <param name="Steps">What to do, one after another.</param>
public sealed record Emergency(EmergencyKind Kind, string Name, IReadOnlyList<string> Steps)
{
    /// <summary>All of them, the most dangerous first.</summary>
    public static IReadOnlyList<Emergency> All { get; } =
    [
        new(EmergencyKind.Co, "CO alarm, headache, dizzy", ["Everybody out, at once.", "Outside, call the emergency number.", "Nobody goes back in until the fire service says so.", "No fire until we have found out why."]),
        new(EmergencyKind.ChimneyFire, "It roars, or flames at the top", ["Shut every air slide and the door.", "Everybody out.", "Call the emergency number.", "No water into the hot flue.", "No fire until we have looked."]),
        new(EmergencyKind.Smoke, "Smoke comes into the room", ["Shut the stove's door and air.", "Windows open, everybody out of the room.", "If it does not stop, or somebody feels dizzy: everybody out, call the emergency number, nobody goes back in.", "No fire until we have found out why."]),
    ];

    /// <summary>One of them.</summary>
    public static Emergency Of(EmergencyKind kind) => All.First(e => e.Kind == kind);

    /// <summary>What to do, in one go.</summary>
    public string Tell => string.Join(' ', Steps);
}
