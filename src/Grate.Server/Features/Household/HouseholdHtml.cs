using System.Globalization;
using System.Net;
using System.Text;
using Grate.Core.Household;
using Grate.Core.Places;
using Grate.Core.Section;
using Grate.Core.Visits;

namespace Grate.Server.Features.Household;

/// <summary>A household's page as HTML: no script, no cookie, its style in one small file; readable on a telephone of ten years ago and on paper.</summary>
internal static class HouseholdHtml
{
    /// <summary>The page of a sheet.</summary>
    /// <param name="sheet">What it says.</param>
    /// <param name="section">The stove cut open.</param>
    /// <param name="firm">The firm.</param>
    /// <param name="language">Its language.</param>
    /// <param name="others">The languages to turn to.</param>
    /// <param name="large">Large print.</param>
    /// <param name="secret">Secret of its address.</param>
    /// <param name="notice">What became of what was sent just now, or null.</param>
    public static string Page(HouseholdSheet sheet, StoveSection section, Firm firm, Language language, IEnumerable<Language> others, bool large, string secret, string? notice)
    {
        var html = new StringBuilder();
        html.Append(Head(language, language["title"], large));
        html.Append($"<p class=\"quiet\">{Text(language["from"].Replace("{0}", firm.Name, StringComparison.Ordinal))}</p><h1>{Text(language["title"])}</h1>");
        html.Append("<nav class=\"quiet\">");
        foreach (var other in others.Where(o => o.Code != language.Code))
            html.Append($"<a href=\"?lang={other.Code}{(large ? "&amp;size=large" : "")}\" lang=\"{other.Code}\">{Text(other["lang.name"])}</a> ");
        html.Append($"<a href=\"?lang={language.Code}{(large ? "" : "&amp;size=large")}\">{Text(language[large ? "ordinary" : "large"])}</a></nav>");
        if (notice is not null)
            html.Append($"<p role=\"status\" class=\"notice\">{Text(notice)}</p>");
        html.Append(InDanger(firm, language));
        html.Append($"<div class=\"first\">{Drawing(section, sheet.May == MayLight.Yes, language)}<div><p class=\"{Class(sheet.May)}\">{Text(May(sheet, language))}</p>");
        if (sheet.Sections.FirstOrDefault(s => s.Code == "today") is { } today)
            Lines(html, today, language);
        if (sheet.Visited is { } visited)
        {
            // What was not looked at is told, whatever stands above it.
            if (sheet.NotLooked.Count > 0 && sheet.May != MayLight.NotChecked)
                html.Append($"<p>{Text(NotLooked("unlooked", sheet, language))}</p>");
            html.Append($"<p class=\"quiet\">{Text(language["visited"].Replace("{day}", language.Day(visited), StringComparison.Ordinal))}</p>");
        }
        html.Append("</div></div>");
        foreach (var part in sheet.Sections.Where(s => s.Code != "today"))
            Section(html, part, language);
        html.Append("<aside>");
        foreach (var card in HouseholdSheet.Cards)
            Section(html, card, language);
        html.Append("</aside>");
        Form(html, secret, language, large);
        html.Append($"<p class=\"quiet\">{Text(language["rules"])}</p>{Reached(firm)}</main></body></html>");
        return html.ToString();
    }

    /// <summary>The number to call in danger, before anything else; nothing where the firm entered none.</summary>
    internal static string InDanger(Firm firm, Language language) => firm.Reached.Emergency is { Length: > 0 } number
        ? $"<p class=\"danger\"><a href=\"tel:{Text(number.Replace(" ", "", StringComparison.Ordinal))}\">{Text(language["emergency"].Replace("{0}", number, StringComparison.Ordinal))}</a></p>" : "";

    /// <summary>How the firm is reached; nothing where it entered nothing.</summary>
    internal static string Reached(Firm firm)
    {
        var phone = firm.Reached.Phone is { Length: > 0 } number ? $"<a href=\"tel:{Text(number.Replace(" ", "", StringComparison.Ordinal))}\">{Text(number)}</a>" : "";
        var mail = firm.Reached.Email is { Length: > 0 } address ? $"<a href=\"mailto:{Text(address)}\">{Text(address)}</a>" : "";
        var lines = new[] { Text(firm.Name), Text(firm.Reached.Address.ReplaceLineEndings(", ")), phone, mail }.Where(l => l.Length > 0).ToList();
        return lines.Count < 2 ? "" : $"<address>{string.Join("<br>", lines)}</address>";
    }

    private static string Class(MayLight may) => may switch { MayLight.Yes => "may", MayLight.NoFire => "stop", _ => "unknown" };

    private static string May(HouseholdSheet sheet, Language language) => sheet switch
    {
        { May: MayLight.NoFire } => language["no-fire"],
        { May: MayLight.Yes } => language["may-light"],
        { Visited: null } => language["never-visited"],
        _ => NotLooked("not-checked", sheet, language),
    };

    private static string NotLooked(string key, HouseholdSheet sheet, Language language) =>
        language[key].Replace("{0}", string.Join(", ", sheet.NotLooked.Select(l => language[$"looked.{l}"])), StringComparison.Ordinal);

    /// <summary>What is shown where a page was withdrawn.</summary>
    public static string Withdrawn(Language language) => $"{Head(language, "Grate", large: false)}<p>{Text(language["withdrawn"])}</p></main></body></html>";

    /// <summary>How every page of a household begins.</summary>
    internal static string Head(Language language, string title, bool large) =>
        $"<!doctype html><html lang=\"{language.Code}\"{(large ? " class=\"large\"" : "")}><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\">"
        + $"<meta name=\"robots\" content=\"noindex\"><title>{Text(title)}</title><link rel=\"stylesheet\" href=\"/household.css\"></head><body><main>";

    private static void Section(StringBuilder html, SheetSection section, Language language)
    {
        html.Append($"<section><h2>{Text(language[$"head.{section.Code}"])}</h2>");
        Lines(html, section, language);
        html.Append("</section>");
    }

    private static void Lines(StringBuilder html, SheetSection section, Language language)
    {
        var list = section.Numbered ? "ol" : "ul";
        html.Append($"<{list}>");
        foreach (var line in section.Lines)
            html.Append($"<li>{Text(language.Line(line))}</li>");
        html.Append($"</{list}>");
    }

    private static void Form(StringBuilder html, string secret, Language language, bool large)
    {
        string Number(string name, string label) => $"<label>{Text(language[label])} <input name=\"{name}\" inputmode=\"decimal\" size=\"5\"></label> ";
        html.Append($"<section class=\"log\"><h2>{Text(language["log.title"])}</h2>");
        // A picture goes to its own address, under the page's secret: the form has no other way to name it.
        void One(string kind, string fields, string how = "") => html.Append($"<form method=\"post\"{how}><input type=\"hidden\" name=\"kind\" value=\"{kind}\"><input type=\"hidden\" name=\"lang\" value=\"{language.Code}\">{(large ? "<input type=\"hidden\" name=\"size\" value=\"large\">" : "")}"
            + $"<h3>{Text(language[$"log.{kind}"])}</h3>{fields}<button>{Text(language["log.send"])}</button></form>");
        var coals = string.Concat(Core.Word.All<Core.Fuel.Coals>().Select(c => $"<option value=\"{c}\">{Text(language[$"log.coals.{c}"])}</option>"));
        One("night", $"{Number("kg", "log.kg")}{Number("hours", "log.hours")}<label>{Text(language["log.coals"])} <select name=\"coals\">{coals}</select></label> ");
        One("ash", Number("days", "log.days"));
        One("wood", Number("kg", "log.kg"));
        var about = string.Concat(Emergency.All.Select(e => $"<option value=\"{Core.Word.Of(e.Kind)}\">{Text(language[$"head.{Core.Word.Of(e.Kind)}"])}</option>"));
        One("note", $"<label>{Text(language["log.about"])} <select name=\"about\"><option value=\"\">{Text(language["log.about.none"])}</option>{about}</select></label>"
            + $"<textarea name=\"text\" rows=\"3\" maxlength=\"500\" aria-label=\"{Text(language["log.note"])}\"></textarea>");
        One("glass", $"<input type=\"file\" name=\"glass\" accept=\"image/*\" aria-label=\"{Text(language["log.glass"])}\"> ", $" action=\"{secret}/glass\" enctype=\"multipart/form-data\"");
        html.Append("</section>");
    }

    private static string Drawing(StoveSection section, bool mayLight, Language language)
    {
        const double unit = 200;
        string At(double m) => (m * unit).ToString("0.#", CultureInfo.InvariantCulture);
        // An insert's masonry reaches further than its stove.
        var across = section.Pieces.SelectMany(p => p.Corners).Select(c => c.X).Append(section.WidthM).Append(0).ToList();
        var svg = new StringBuilder($"<svg viewBox=\"{At(across.Min() - 0.05)} {At(-0.05)} {At(across.Max() - across.Min() + 0.1)} {At(section.HeightM + 0.1)}\" role=\"img\" aria-label=\"{Text(language["drawing"])}\">");
        foreach (var piece in section.Pieces)
        {
            var points = string.Join(' ', piece.Corners.Select(c => $"{At(c.X)},{At(section.HeightM - c.Y)}"));
            svg.Append($"<polygon class=\"{Core.Word.Of(piece.Look)}{(mayLight && piece.Code == "firebox" ? " fire" : "")}\" points=\"{points}\"/>");
        }
        return svg.Append("</svg>").ToString();
    }

    /// <summary>Words that are nothing but words.</summary>
    internal static string Text(string text) => WebUtility.HtmlEncode(text);
}
