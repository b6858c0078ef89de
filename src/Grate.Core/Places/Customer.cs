namespace Grate.Core.Places;

/// <summary>Somebody else of a household who is called or written to.</summary>
/// <param name="Whose">Whose number it is, 1 to 100 characters: "neighbour with the key".</param>
/// <param name="Phone">Phone, up to 60 characters; empty if not noted.</param>
/// <param name="Email">Mail address, up to 254 characters; empty if not noted.</param>
public sealed record Contact(string Whose, string Phone = "", string Email = "")
{
    /// <summary>Refuses what cannot be.</summary>
    /// <param name="field">Its field.</param>
    /// <param name="errors">Takes the refusals.</param>
    public void Check(string field, EntryErrors errors)
    {
        errors.CheckLine($"{field}.whose", Whose, "Whose number it is", 100, needed: true);
        errors.CheckLine($"{field}.phone", Phone, "Phone", 60);
        MailAddresses.Check($"{field}.email", Email, "Mail address", errors);
        if (string.IsNullOrWhiteSpace(Phone) && string.IsNullOrWhiteSpace(Email))
            errors.Add($"{field}.phone", "A phone or a mail address of theirs.");
    }
}

/// <summary>Whose house it is.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Name, 1 to 200 characters.</param>
/// <param name="Phone">Phone, up to 60 characters; empty if not noted.</param>
/// <param name="Email">Mail addresses, at most three parted by commas, up to 254 characters; empty if not noted.</param>
/// <param name="Note">What to know, up to 2 000 characters.</param>
/// <param name="Contacts">Who else is called, at most 10.</param>
/// <param name="Language">Code of the language they are written to in, up to 10 characters; empty for the first.</param>
/// <param name="Wish">When they want a visit; null for any time.</param>
public sealed record Customer(Guid Id, string Name, string Phone = "", string Email = "", string Note = "", IReadOnlyList<Contact>? Contacts = null, string Language = "", VisitWish? Wish = null)
{
    private const int MostContacts = 10;

    /// <summary>The same without blanks around what was typed; what was not told is empty, as it is kept.</summary>
    public Customer Tidy() => this with
    {
        Name = Name.Trim(),
        Phone = Phone.Trim(),
        Email = Email.Trim(),
        Note = Note.Trim(),
        Contacts = [.. (Contacts ?? []).Select(c => new Contact(c.Whose.Trim(), c.Phone.Trim(), c.Email.Trim()))],
        Wish = Wish ?? VisitWish.Any,
    };

    /// <summary>Refuses what cannot be.</summary>
    public void Check(EntryErrors errors)
    {
        errors.CheckLine("name", Name, "Name", 200, needed: true);
        errors.CheckLine("phone", Phone, "Phone", 60);
        MailAddresses.Check("email", Email, "Mail address", errors, MailAddresses.Most);
        errors.CheckText("note", Note, "Note", 2000);
        errors.CheckLine("language", Language, "Language", 10);
        foreach (var (contact, i) in errors.Each("contacts", Contacts, MostContacts, "contacts"))
            contact.Check($"contacts[{i}]", errors);
        Wish?.Check("wish", errors);
    }
}
