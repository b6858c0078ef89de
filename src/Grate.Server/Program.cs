using System.Reflection;
using Dapper;
using Grate.Core;
using Grate.Instruments;
using Grate.Server;
using Grate.Server.Access;
using Grate.Server.Features;
using Grate.Server.Features.Firms;
using Grate.Server.Features.Flue;
using Grate.Server.Features.Household;
using Grate.Server.Features.Service;
using Grate.Server.Features.Stock;
using Grate.Server.Features.Visits;
using Grate.Store;
using Grate.Store.Demo;
using Npgsql;
using Serilog;

// The build starts this program only to write its OpenAPI document: no database then.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(args);
builder.Services.AddSerilog(log => log.MinimumLevel.Information()
    .MinimumLevel.Override("Microsoft", Serilog.Events.LogEventLevel.Warning)
    .MinimumLevel.Override("Microsoft.Hosting.Lifetime", Serilog.Events.LogEventLevel.Information)
    .MinimumLevel.Override("Npgsql", Serilog.Events.LogEventLevel.Warning)
    .WriteTo.Console());
// The largest thing a browser sends is a visit's step; nothing needs more.
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.Limits.MaxRequestBodySize = 256 * 1024;
    kestrel.AddServerHeader = false;
});
// Open streams end with the server; nothing else takes longer.
builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = TimeSpan.FromSeconds(4));

var database = builder.Configuration.GetConnectionString("Grate")
    ?? "Host=127.0.0.1;Database=grate;Username=grate";
// PostgreSQL takes 100 connections unless told otherwise: two servers share them, and a rush waits instead of failing.
builder.Services.AddNpgsqlDataSource(database, source =>
{
    if (!database.Contains("Pool Size", StringComparison.OrdinalIgnoreCase))
        source.ConnectionStringBuilder.MaxPoolSize = 40;
    // A history is one long statement: planning it takes longer than running it, so plans are kept.
    source.ConnectionStringBuilder.MaxAutoPrepare = 60;
    source.ConnectionStringBuilder.AutoPrepareMinUsages = 2;
});
Database.MapTypes();
builder.Services.AddSingleton<FirmStore>().AddSingleton<StoveStore>().AddSingleton<VisitStore>().AddSingleton<StationStore>().AddSingleton<HistoryStore>().AddSingleton<DueStore>().AddSingleton<SeasonStore>().AddSingleton<CalendarStore>().AddSingleton<StopStore>().AddSingleton<SealStore>().AddSingleton<StockStore>().AddSingleton<PhotoStore>().AddSingleton<PriceStore>().AddSingleton<HouseholdStore>().AddSingleton<BookStore>().AddSingleton<PlanStore>().AddSingleton<InvitationStore>().AddSingleton<ImportStore>().AddSingleton<MessageStore>().AddSingleton<PassingStore>().AddSingleton<AbsenceStore>().AddSingleton<ArchiveStore>().AddSingleton<TroubleStore>().AddSingleton<RoundStore>().AddSingleton<SeasonPlanStore>().AddSingleton<FittedStore>().AddSingleton<InboxStore>();
builder.Services.AddSingleton<SetUpCode>().AddSingleton<OutboxStore>().AddSingleton(services => ActivatorUtilities.CreateInstance<Outbox>(services, Path.GetFullPath(builder.Configuration["Outbox:Folder"] ?? "outbox", builder.Environment.ContentRootPath)));
var outside = new PublicAddress(builder.Configuration["Public:Address"]);
builder.Services.AddSingleton(outside).AddHostFiltering(hosts => hosts.AllowedHosts = outside.Hosts.Split(';'));
builder.Services.AddSingleton(Clock.At(builder.Configuration["Clock:At"], builder.Configuration["Clock:Speed"]));
builder.Services.ConfigureHttpJsonOptions(options => Json.Configure(options.SerializerOptions));
// Unreadable JSON goes the way of every other fault, and gets a sentence.
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.AddOpenApi(options => options.AddSchemaTransformer<TextSchema>().AddSchemaTransformer<FittingSchema>().AddSchemaTransformer<ComputedSchema>().AddSchemaTransformer<WordSchema>());
builder.Services.AddProblemDetails(options => options.CustomizeProblemDetails = Faults.Name);
builder.Services.AddExceptionHandler<Faults>();
builder.AddInstruments();
builder.AddAccess(keysInDatabase: !describing);
builder.Services.AddSingleton<Grate.Core.Door.ICutSolver, Grate.Solvers.CutSolver>().AddSingleton<Grate.Core.Firebox.IBrickSolver, Grate.Solvers.BrickSolver>().AddSingleton<Grate.Core.Service.IRoundSolver, Grate.Solvers.RoundSolver>().AddSingleton<Grate.Core.Service.ISeasonSolver, Grate.Solvers.SeasonSolver>();
builder.Services.AddSingleton(Parts.All).AddSingleton<Grate.Core.Service.Due>().AddSingleton<VisitRecords>().AddSingleton<OpenVisits>().AddSingleton<DueKeeper>().AddTransient<NightlyRun>().AddSingleton<SealsDue>().AddSingleton<PartsDesk>().AddSingleton<PlanDesk>().AddSingleton<FreeTimes>().AddSingleton<CallDesk>().AddSingleton<ImportDesk>().AddSingleton<RoundDesk>().AddSingleton<RoundSearches>().AddSingleton<MessageDesk>().AddSingleton<SeasonPlanDesk>().AddSingleton<FittedDesk>();
builder.Services.AddSingleton(new Languages(Path.Combine(AppContext.BaseDirectory, "Languages")));
builder.Services.AddScoped<VisitDocument>();
builder.Services.AddHostedService<DemoClock>();
if (!describing)
{
    builder.Services.AddNightlyRun();
    builder.Services.AddHostedService(services => services.GetRequiredService<Outbox>());
}

var app = builder.Build();
app.UseSecurityHeaders();
app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseSameOriginWrites();

var web = Path.GetFullPath(builder.Configuration["Web:Root"] ?? "wwwroot", app.Environment.ContentRootPath);
app.UseWebFiles(web);
app.UseRouting();
app.UseWebPage(web);
app.UseUnknownAddresses();
app.UseAuthentication();
app.UseRateLimiter();
app.UseAuthorization();

app.MapOpenApi().RequireAuthorization(Policies.SignedIn);
app.MapGet("/api/health", async (NpgsqlDataSource source) =>
{
    await using var connection = await source.OpenConnectionAsync();
    return TypedResults.Ok(await connection.QuerySingleAsync<string>("select 'ready'"));
}).AllowAnonymous();
app.MapSession();
app.MapPeople();
app.MapInvitations();
app.MapSetUp();
app.MapFirm();
app.MapTables();
app.MapCalculations();
app.MapDraft();
app.MapFlues();
app.MapInstruments();
app.MapToday();
app.MapStoves();
app.MapVisits();
app.MapStations();
app.MapPhotos();
app.MapStops();
app.MapSeason();
app.MapSeasonPlan();
app.MapFitted();
app.MapCalendars();
app.MapStock();
app.MapParts();
app.MapPrices();
app.MapHouseholds();
app.MapBooks();
app.MapPassings();
app.MapArchive();
app.MapImports();
app.MapWeek();
app.MapRounds();
app.MapAbsences();
app.MapCalls();
app.MapTroubles();
app.MapMessages();

if (!describing)
{
    // One role owns and migrates, one serves; where no owner is named they are the same.
    var (serves, owner) = (new NpgsqlConnectionStringBuilder(database), new NpgsqlConnectionStringBuilder(builder.Configuration.GetConnectionString("GrateOwner") ?? database));
    var owning = new NpgsqlConnectionStringBuilder(database) { Username = owner.Username, Password = owner.Password };
    Database.Migrate(owning.ConnectionString, serves.Username == owning.Username ? null : serves.Username);
    if (args is ["verify"])
        return await app.Services.VerifyAsync(Console.Out);
    if (args.ArePeopleCommand())
        return await app.Services.DoForPeopleAsync(args, Console.Error);
    if (app.Configuration.GetValue<bool>("Demo"))
        await app.Services.LoadDemoAsync();
    await app.Services.GetRequiredService<SealStore>().SealEarlierAsync();
    await app.Services.TellSetUpCodeAsync(Console.Out);
}
app.Run();
return 0;

/// <summary>The server; public so that tests can start it.</summary>
public partial class Program;
