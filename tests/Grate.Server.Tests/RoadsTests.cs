using System.Net;
using System.Net.Http.Json;
using Grate.Core.Places;
using Grate.Instruments;
using Grate.Instruments.StandIn;

namespace Grate.Server.Tests;

/// <summary>The road service: its stand-in, what is remembered, and what happens when it does not answer.</summary>
public class RoadsTests
{
    private static readonly RoadPlace _sallowby = new(47.13, 10.24), _fernby = new(47.16, 10.29), _beside = new(47.131, 10.241);

    private sealed class Service(Func<RoadQuestion, HttpResponseMessage> answer) : HttpMessageHandler
    {
        public int Asked { get; private set; }

        protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
        {
            Asked++;
            return answer((await request.Content!.ReadFromJsonAsync<RoadQuestion>(cancellationToken))!);
        }
    }

    // A clock that goes on by hand.
    private sealed class Hand : TimeProvider
    {
        public TimeSpan On { get; set; } = TimeSpan.FromHours(1);

        public override long TimestampFrequency => TimeSpan.TicksPerSecond;

        public override long GetTimestamp() => On.Ticks;
    }

    private static (HttpRoads Roads, Service Service, Hand Clock) Over(Func<RoadQuestion, HttpResponseMessage> answer)
    {
        var (service, clock) = (new Service(answer), new Hand());
        return (new HttpRoads(new HttpClient(service) { BaseAddress = new Uri("http://127.0.0.1:1/") }, clock), service, clock);
    }

    private static HttpResponseMessage Json(object body) => new() { Content = JsonContent.Create(body) };

    [Fact]
    public async Task Minutes_come_from_the_service_and_are_asked_once()
    {
        var (roads, service, _) = Over(q => Json(StandInRoads.Of(q)));
        var times = await roads.BetweenAsync([_sallowby, _fernby, _sallowby], CancellationToken.None);
        Assert.False(times.ByRule);
        // Over the pass it takes nine minutes more than the rule says; there is none within a town, where it is slower.
        var rule = Road.Minutes(_sallowby.Lat, _sallowby.Lon, _fernby.Lat, _fernby.Lon);
        Assert.Equal(rule + 9, times.Between(_sallowby.Lat, _sallowby.Lon, _fernby.Lat, _fernby.Lon), 1e-9);
        Assert.Equal(0, times.Between(_fernby.Lat, _fernby.Lon, _fernby.Lat, _fernby.Lon));
        var town = await roads.BetweenAsync([_sallowby, _beside], CancellationToken.None);
        Assert.Equal(Road.Minutes(_sallowby.Lat, _sallowby.Lon, _beside.Lat, _beside.Lon) * 45 / 25, town.Between(_sallowby.Lat, _sallowby.Lon, _beside.Lat, _beside.Lon), 1e-9);
        Assert.Equal(2, service.Asked);
        Assert.False((await roads.BetweenAsync([_fernby, _sallowby], CancellationToken.None)).ByRule);
        Assert.Equal(2, service.Asked);
    }

    [Fact]
    public async Task A_service_that_fails_or_talks_nonsense_leaves_the_plain_rule_and_is_asked_again_after_a_while()
    {
        Func<RoadQuestion, HttpResponseMessage>[] bad =
        [
            _ => throw new HttpRequestException("nobody there"), _ => throw new TaskCanceledException("too slow"), _ => new HttpResponseMessage(HttpStatusCode.BadGateway), _ => new HttpResponseMessage { Content = new StringContent("<html>") },
            _ => Json(new { minutes = (double[][])[[0]] }), _ => Json(new { minutes = (double[][])[[0, -1], [1, 0]] }), _ => Json(new { minutes = (double[][])[[0, 99999], [1, 0]] }), _ => Json(new { }), _ => Json(new { minutes = (double[]?[])[null, [1, 0]] }),
        ];
        foreach (var answer in bad)
        {
            var (roads, service, clock) = Over(answer);
            var times = await roads.BetweenAsync([_sallowby, _fernby], CancellationToken.None);
            Assert.True(times.ByRule);
            Assert.Equal(Road.Minutes(_sallowby.Lat, _sallowby.Lon, _fernby.Lat, _fernby.Lon), times.Between(_sallowby.Lat, _sallowby.Lon, _fernby.Lat, _fernby.Lon), 1e-9);
            // For a while nobody waits for it again.
            clock.On += HttpRoads.LeftAlone / 2;
            Assert.True((await roads.BetweenAsync([_sallowby, _fernby], CancellationToken.None)).ByRule);
            Assert.Equal(1, service.Asked);
            clock.On += HttpRoads.LeftAlone;
            await roads.BetweenAsync([_sallowby, _fernby], CancellationToken.None);
            Assert.Equal(2, service.Asked);
        }
        // More than it takes at once, or nobody to ask: the rule.
        var (many, asked, _) = Over(q => Json(StandInRoads.Of(q)));
        Assert.True((await many.BetweenAsync(Enumerable.Range(0, HttpRoads.MostPlaces + 1).Select(i => new RoadPlace(47 + i / 1000.0, 10)), CancellationToken.None)).ByRule);
        Assert.Equal(0, asked.Asked);
        Assert.True((await new HttpRoads(new HttpClient(), new Hand()).BetweenAsync([_sallowby, _fernby], CancellationToken.None)).ByRule);
    }
}
