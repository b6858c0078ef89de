using Grate.Core;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;

namespace Grate.Server.Features.Firms;

/// <summary>The firm as entered.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Place">Its place.</param>
/// <param name="TimeZone">IANA time zone.</param>
/// <param name="InspectionMonths">Months between inspections, 1..60; 12 where nothing is said.</param>
/// <param name="ServiceHoursWeek">Hours a week each technician has for due visits, 0..80; 20 where nothing is said.</param>
/// <param name="Ways">How it works; an ordinary firm's where nothing is said.</param>
/// <param name="Contact">How it is reached; what is not said is empty.</param>
public sealed record FirmEntry(string Name, string Place, string TimeZone, int? InspectionMonths = null, double? ServiceHoursWeek = null, FirmWays? Ways = null, FirmContact? Contact = null)
{
    private const double UsualHours = 20;

    /// <summary>The firm.</summary>
    /// <param name="demo">Whether it is the demo's.</param>
    public Firm Read(bool demo) => new(Name.Trim(), Place.Trim(), TimeZone.Trim(), InspectionMonths ?? (int)Core.Service.Due.Inspection.Value, ServiceHoursWeek ?? UsualHours, demo, Ways,
        Contact is null ? null : new((Contact.Phone ?? "").Trim(), (Contact.Email ?? "").Trim(), (Contact.Address ?? "").Trim(), (Contact.Emergency ?? "").Trim()));
}

/// <summary>A change of the firm.</summary>
/// <param name="BaseVersion">Version that was looked at.</param>
/// <param name="Firm">The firm as it is to be.</param>
public sealed record FirmChange(int BaseVersion, FirmEntry Firm);

/// <summary>The firm, its ways in full.</summary>
/// <param name="Firm">The firm.</param>
/// <param name="Ways">How it works.</param>
/// <param name="Version">From 1.</param>
public sealed record FirmAnswer(Firm Firm, FirmWays Ways, int Version)
{
    /// <summary>As kept.</summary>
    public static FirmAnswer Of(FirmRow row) => new(row.Firm with { Ways = null }, row.Firm.Works, row.Version);
}

/// <summary>The firm: read by everybody of it, changed by its owner.</summary>
public static class FirmEndpoints
{
    /// <summary>Maps /api/firm.</summary>
    public static void MapFirm(this WebApplication app)
    {
        app.MapGet("/api/firm", async (FirmStore firms) => FirmAnswer.Of((await firms.RowAsync())!)).RequireAuthorization(Policies.SignedIn).Produces<FirmAnswer>();
        app.MapPut("/api/firm", ChangeAsync).RequireAuthorization(Policies.Owner).Produces<FirmAnswer>().ProducesValidationProblem().ProducesProblem(409);
    }

    private static async Task<IResult> ChangeAsync(FirmChange change, FirmStore firms, DueStore due, NightlyRun night, IHostApplicationLifetime life)
    {
        var before = (await firms.RowAsync())!;
        var firm = change.Firm.Read(before.Firm.Demo);
        // Whoever says nothing of how the firm is reached leaves it as it is.
        firm = firm with { Contact = firm.Contact ?? before.Firm.Contact };
        var errors = new EntryErrors();
        firm.Check(errors);
        if (errors.Any)
            return Faults.Refused(errors);
        var changed = await firms.ChangeAsync(firm, change.BaseVersion);
        var now = FirmAnswer.Of((await firms.RowAsync())!);
        // What is due rests on the firm's ways: it is computed again, beside whatever else goes on.
        if (changed && (firm.InspectionMonths, firm.Works.Sweeping, firm.Works.SeasonMonth) != (before.Firm.InspectionMonths, before.Firm.Works.Sweeping, before.Firm.Works.SeasonMonth))
        {
            await due.AgainAsync();
            _ = Task.Run(() => night.RunAsync(life.ApplicationStopping));
        }
        return changed ? TypedResults.Ok(now)
            : TypedResults.Problem(statusCode: 409, title: "Somebody changed the firm in between: look at what stands there now.", extensions: new Dictionary<string, object?> { ["stored"] = now });
    }
}
