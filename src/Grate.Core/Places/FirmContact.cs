using System.Text.RegularExpressions;

namespace Grate.Core.Places;

/// <summary>How the firm is reached; what nobody entered is empty, and stands nowhere.</summary>
/// <param name="Phone">Its telephone, up to 40 characters.</param>
/// <param name="Email">Address its letters come from and are answered to, up to 254 characters.</param>
/// <param name="Address">Its street and place as on a letter, up to 300 characters.</param>
/// <param name="Emergency">Number that is called at its place when life is in danger, 2 to 20 digits and spaces.</param>
public sealed partial record FirmContact(string Phone = "", string Email = "", string Address = "", string Emergency = "")
{
    /// <summary>Refuses what cannot be.</summary>
    /// <param name="errors">Takes the refusals, by field.</param>
    public void Check(EntryErrors errors)
    {
        errors.CheckLine("contact.phone", Phone, "The firm's telephone", 40);
        MailAddresses.Check("contact.email", Email, "The firm's mail address", errors);
        errors.CheckText("contact.address", Address, "The firm's address", 300);
        if (Emergency is { Length: > 0 } && !Number().IsMatch(Emergency))
            errors.Add("contact.emergency", $"The emergency number is 2 to 20 digits, like 112; “{Emergency[..Math.Min(Emergency.Length, 30)]}” was entered.");
    }

    [GeneratedRegex(@"^\+?[0-9](?:[0-9 ]{0,18}[0-9])$")]
    private static partial Regex Number();
}
