using System.Net;

namespace Grate.Server.Tests;

/// <summary>Measures of a stove's body, typed on its drawing.</summary>
public sealed class MeasureTests(GrateServer server) : IClassFixture<GrateServer>
{
    private async Task<string> StoveAsync() => (await server.ScalarAsync<Guid>("select id from appliances where kind = 'steel' order by id limit 1")).ToString();

    [Fact]
    public async Task Two_who_measure_at_once_take_nothing_from_each_other()
    {
        var owner = await server.SignedInAsync("owner");
        var stove = await StoveAsync();
        Task<System.Text.Json.JsonElement> Set(string field, double? m) => owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/measures/{field}", new { m });
        await Task.WhenAll(Set("depthM", 0.61), Set("heightM", 0.78), Set("legM", 0.2));
        var measured = (await owner.ReadAsync($"/api/stoves/{stove}")).GetProperty("section").GetProperty("measures").EnumerateArray().Where(m => m.GetProperty("measured").GetBoolean());
        Assert.Equal("depthM 0.61, heightM 0.78, legM 0.2", string.Join(", ", measured.Select(m => $"{m.Text("field")} {m.Number("m")}")));
        // One that is taken away is drawn in usual proportion again.
        var after = await Set("legM", null);
        Assert.False(after.GetProperty("measures").EnumerateArray().Single(m => m.Text("field") == "legM").GetProperty("measured").GetBoolean());
    }

    [Fact]
    public async Task What_cannot_be_is_refused_in_a_sentence_and_keeps_what_was()
    {
        var owner = await server.SignedInAsync("owner");
        var stove = await StoveAsync();
        foreach (var (field, m, said) in new[] { ("heightM", 30.0, "between 0.30 and 3.00 m"), ("legM", 5, "between 0.00 and 0.60 m"), ("colour", 1, "A measure is one of") })
            Assert.Contains(said, (await owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/measures/{field}", new { m }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.DoesNotContain("30", await server.ScalarAsync<string>($"select measures::text from appliances where id = '{stove}'"), StringComparison.Ordinal);
        await owner.SendAsync(HttpMethod.Put, $"/api/stoves/{Guid.CreateVersion7()}/measures/legM", new { m = 0.1 }, HttpStatusCode.NotFound);
    }
}
