namespace Grate.Core.Places;

/// <summary>Whose house it is.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Name, 1 to 200 characters.</param>
/// <param name="Phone">Phone, up to 60 characters; empty if not noted.</param>
/// <param name="Email">Mail address, up to 254 characters; empty if not noted.</param>
/// <param name="Note">What to know, up to 2 000 characters.</param>
public sealed record Customer(Guid Id, string Name, string Phone = "", string Email = "", string Note = "")
{
    /// <summary>Refuses what cannot be.</summary>
    public void Check(EntryErrors errors)
    {
        errors.CheckText("name", Name, "Name", 200, needed: true);
        errors.CheckText("phone", Phone, "Phone", 60);
        errors.CheckText("email", Email, "Mail address", 254);
        errors.CheckText("note", Note, "Note", 2000);
        if (Email.Length > 0 && !Email.Contains('@'))
            errors.Add("email", $"“{Email[..Math.Min(Email.Length, 40)]}” is no mail address: there is no @ in it.");
    }
}
