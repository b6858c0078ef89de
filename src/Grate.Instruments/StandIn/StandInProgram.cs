using System.Net;
using System.Net.Sockets;
using Grate.Core;

namespace Grate.Instruments.StandIn;

/// <summary>The stand-ins as a program of its own: instruments on --port, their small page on --page, both on loopback alone.</summary>
internal static class StandInProgram
{
    private static void Main(string[] args)
    {
        var builder = WebApplication.CreateBuilder(args);
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        var clock = Clock.At(builder.Configuration["Clock:At"], builder.Configuration["Clock:Speed"]);
        var stage = new Stage(clock);
        using var listener = new TcpListener(IPAddress.Loopback, builder.Configuration.GetValue("port", 8510));
        listener.Start(512);
        builder.Services.AddSingleton(clock).AddSingleton(stage).AddSingleton(listener).AddHostedService<StandInServer>();
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.ListenLocalhost(builder.Configuration.GetValue("page", 8511)));

        var app = builder.Build();
        app.MapGet("/", () => Results.Content(StagePage.Of(stage), "text/html; charset=utf-8"));
        app.MapPost("/roads", (RoadQuestion question) => question.Places is { Count: <= HttpRoads.MostPlaces } ? Results.Ok(StandInRoads.Of(question)) : Results.BadRequest());
        app.MapPost("/stage", async (HttpRequest request) =>
        {
            var form = await request.ReadFormAsync();
            if (Word.Find<Scenario>(form["scenario"]) is { } scenario)
            {
                stage.Scenario = scenario;
                stage.WindowOpen = form.ContainsKey("window");
            }
            if (form.ContainsKey("garble"))
                stage.Garble();
            if (form.ContainsKey("cut"))
                stage.Cut();
            return Results.Redirect("/");
        });
        app.Run();
    }
}
