using System.Text;
using Grate.Core.Service;
using Grate.Store;

namespace Grate.Server.Features.Household;

/// <summary>A household's page of its date: no script, no cookie, nothing of anybody else.</summary>
internal static class VisitHtml
{
    /// <summary>The page of a visit.</summary>
    /// <param name="visit">The visit.</param>
    /// <param name="firm">Who comes.</param>
    /// <param name="language">Its language.</param>
    /// <param name="others">The languages to turn to.</param>
    /// <param name="now">Now.</param>
    /// <param name="notice">What became of what was sent just now, or null.</param>
    public static string Page(ToldVisit visit, Core.Places.Firm firm, Language language, IEnumerable<Language> others, DateTimeOffset now, string? notice)
    {
        string Say(string key) => HouseholdHtml.Text(new MessageText("", language[key]).With(new Dictionary<string, string>
        {
            ["technician"] = visit.Technician,
            ["day"] = language.Day(firm.Day(visit.Start)),
            ["from"] = $"{firm.Time(visit.Start):HH:mm}",
            ["to"] = $"{firm.Time(visit.End):HH:mm}",
            ["asked"] = visit.Asked,
        }).Body);
        var open = visit.State == "open" && visit.Start > now;
        var html = new StringBuilder(HouseholdHtml.Head(language, language["visit.title"], large: false));
        html.Append($"<p class=\"quiet\">{HouseholdHtml.Text(firm.Name)}</p><h1>{Say("visit.title")}</h1><nav class=\"quiet\">");
        foreach (var other in others.Where(o => o.Code != language.Code))
            html.Append($"<a href=\"?lang={other.Code}\" lang=\"{other.Code}\">{HouseholdHtml.Text(other["lang.name"])}</a> ");
        html.Append("</nav>");
        html.Append(HouseholdHtml.InDanger(firm, language));
        if (notice is not null)
            html.Append($"<p role=\"status\" class=\"notice\">{HouseholdHtml.Text(notice)}</p>");
        html.Append($"<p><strong>{Say(visit.State == "cancelled" ? "visit.cancelled" : open ? "visit.when" : "visit.over")}</strong></p>");
        if (open)
        {
            html.Append($"<p>{HouseholdHtml.Text($"{visit.Street}, {visit.Place}")}</p><p>{Say("visit.cold")}</p>");
            if (visit.Asked.Length > 0)
                html.Append($"<p>{Say("visit.asked")}</p>");
            var hidden = $"<input type=\"hidden\" name=\"lang\" value=\"{language.Code}\">";
            html.Append($"<section class=\"log\"><form method=\"post\">{hidden}<input type=\"hidden\" name=\"kind\" value=\"ask\"><h3>{Say("visit.ask")}</h3>"
                + $"<textarea name=\"asked\" rows=\"3\" maxlength=\"300\" aria-label=\"{Say("visit.ask.when")}\" placeholder=\"{Say("visit.ask.when")}\"></textarea><button>{HouseholdHtml.Text(language["log.send"])}</button></form>"
                + $"<form method=\"post\">{hidden}<input type=\"hidden\" name=\"kind\" value=\"cancel\"><h3>{Say("visit.cancel")}</h3>"
                + $"<label><input type=\"checkbox\" name=\"sure\" value=\"yes\"> {Say("visit.cancel.sure")}</label> <button>{HouseholdHtml.Text(language["log.send"])}</button></form></section>");
        }
        return html.Append($"{HouseholdHtml.Reached(firm)}</main></body></html>").ToString();
    }
}
