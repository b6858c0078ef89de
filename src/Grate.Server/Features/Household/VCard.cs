using System.Text;
using Grate.Core;
using Grate.Core.Service;

namespace Grate.Server.Features.Household;

/// <summary>A household as a vCard: written as version 4.0 (RFC 6350), read as 3.0 and 4.0. Numbers of somebody else stand in a group with the note whose they are.</summary>
internal static class VCard
{
    /// <summary>Media type.</summary>
    public const string Type = "text/vcard; charset=utf-8";

    private const int LineOctets = 75;

    private sealed record Line(string Group, string Name, string Value);

    /// <summary>Writes a household.</summary>
    /// <param name="customer">Whose.</param>
    /// <param name="house">Its first house; null where it has none.</param>
    public static string Of(Customer customer, House? house)
    {
        var card = new StringBuilder();
        void Add(string name, string value)
        {
            if (value.Length > 0)
                Fold(card, $"{name}:{value}");
        }
        Add("BEGIN", "VCARD");
        Add("VERSION", "4.0");
        Add("UID", $"urn:uuid:{customer.Id}");
        Add("FN", Escaped(customer.Name));
        Add("TEL;VALUE=text", Escaped(customer.Phone));
        Add("EMAIL", Escaped(customer.Email));
        if (house is not null)
            Add("ADR", $";;{Escaped(house.Street)};{Escaped(house.Place)};;;");
        Add("LANG", Escaped(customer.Language));
        Add("NOTE", Escaped(customer.Note));
        foreach (var (contact, i) in (customer.Contacts ?? []).Select((c, i) => (c, i + 1)))
        {
            Add($"c{i}.TEL;VALUE=text", Escaped(contact.Phone));
            Add($"c{i}.EMAIL", Escaped(contact.Email));
            Add($"c{i}.NOTE", Escaped(contact.Whose));
        }
        Add("END", "VCARD");
        return card.ToString();
    }

    /// <summary>Reads the first card of a file as a household to write down.</summary>
    /// <param name="text">The file.</param>
    /// <param name="errors">Takes the refusals, under card.</param>
    public static NewHousehold? Read(string text, EntryErrors errors)
    {
        var lines = Unfolded(text).Select(Parsed).OfType<Line>().SkipWhile(l => l is not { Name: "BEGIN", Value: "VCARD" or "vcard" }).Skip(1).TakeWhile(l => l.Name != "END").ToList();
        if (lines.Count == 0)
        {
            errors.Add("card", "This is no vCard: it begins with BEGIN:VCARD.");
            return null;
        }
        string First(string name) => lines.Where(l => l.Name == name).OrderBy(l => l.Group.Length > 0).Select(l => Plain(l.Value)).FirstOrDefault("");
        var name = First("FN") is { Length: > 0 } said ? said : string.Join(" ", Split(lines.FirstOrDefault(l => l.Name == "N")?.Value ?? "").Take(2).Reverse().Where(p => p.Length > 0));
        var address = Split(lines.FirstOrDefault(l => l.Name == "ADR")?.Value ?? "");
        string Part(int at) => at < address.Count ? address[at] : "";
        var (phone, email) = (Number(First("TEL")), First("EMAIL"));
        var groups = lines.Where(l => l.Group.Length > 0).GroupBy(l => l.Group).Where(g => g.Any(l => l.Name == "NOTE"));
        string In(IEnumerable<Line> group, string of) => group.Where(l => l.Name == of).Select(l => Plain(l.Value)).FirstOrDefault("");
        List<Contact> contacts = [.. groups.Select(g => new Contact(In(g, "NOTE"), Number(In(g, "TEL")), In(g, "EMAIL")))];
        // Further numbers that say nothing of whose they are.
        contacts.AddRange(lines.Where(l => l is { Name: "TEL" } && !groups.Any(g => g.Key == l.Group)).Select(l => Number(Plain(l.Value))).Where(n => n != phone && n.Length > 0).Select(n => new Contact(name, n)));
        contacts.AddRange(lines.Where(l => l is { Name: "EMAIL" } && !groups.Any(g => g.Key == l.Group)).Select(l => Plain(l.Value)).Where(m => m != email && m.Length > 0).Select(m => new Contact(name, "", m)));
        var note = string.Join("\n", lines.Where(l => l is { Name: "NOTE", Group: "" }).Select(l => Plain(l.Value)));
        var place = Part(3).Length > 0 ? Part(3) : Part(5);
        return new NewHousehold(name, phone, email, note, Part(2), place, Contacts: contacts, Language: First("LANG").Split('-')[0]);
    }

    private static string Number(string value) => value.StartsWith("tel:", StringComparison.OrdinalIgnoreCase) ? value[4..] : value;

    // A line goes on in the next where that begins with a blank.
    private static IEnumerable<string> Unfolded(string text) => text.TrimStart('\uFEFF').ReplaceLineEndings("\n").Replace("\n ", "", StringComparison.Ordinal).Replace("\n\t", "", StringComparison.Ordinal).Split('\n');

    private static Line? Parsed(string line)
    {
        var (quoted, colon) = (false, -1);
        for (var i = 0; i < line.Length && colon < 0; i++)
        {
            if (line[i] == '"')
                quoted = !quoted;
            else if (line[i] == ':' && !quoted)
                colon = i;
        }
        if (colon < 1)
            return null;
        var name = line[..colon].Split(';')[0];
        var dot = name.IndexOf('.', StringComparison.Ordinal);
        return new(dot < 0 ? "" : name[..dot], name[(dot + 1)..].ToUpperInvariant(), line[(colon + 1)..].Trim());
    }

    private static List<string> Split(string value)
    {
        var parts = new List<string> { "" };
        for (var i = 0; i < value.Length; i++)
        {
            if (value[i] == '\\' && i + 1 < value.Length)
                parts[^1] += value[i..(++i + 1)];
            else if (value[i] == ';')
                parts.Add("");
            else
                parts[^1] += value[i];
        }
        return [.. parts.Select(Plain)];
    }

    private static string Escaped(string text) => text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace(";", "\\;", StringComparison.Ordinal).Replace(",", "\\,", StringComparison.Ordinal).ReplaceLineEndings("\\n");

    private static string Plain(string value)
    {
        var text = new StringBuilder();
        for (var i = 0; i < value.Length; i++)
            text.Append(value[i] != '\\' || i + 1 == value.Length ? value[i] : value[++i] is 'n' or 'N' ? '\n' : value[i]);
        return text.ToString().Trim();
    }

    // At most 75 octets a line, and no character is cut in two.
    private static void Fold(StringBuilder card, string line)
    {
        var octets = 0;
        foreach (var rune in line.EnumerateRunes())
        {
            if (octets + rune.Utf8SequenceLength > LineOctets)
            {
                card.Append("\r\n ");
                octets = 1;
            }
            card.Append(rune);
            octets += rune.Utf8SequenceLength;
        }
        card.Append("\r\n");
    }
}
