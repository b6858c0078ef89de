using System.Net.Http.Json;

namespace Grate.Benchmarks;

/// <summary>A client signed in at a server on this machine.</summary>
internal static class SignedIn
{
    /// <summary>Signs in with the demo's technician.</summary>
    /// <exception cref="ArgumentException">The address is not on this machine: no load leaves it.</exception>
    public static async Task<HttpClient> ClientAsync(string address)
    {
        if (!new Uri(address).IsLoopback)
            throw new ArgumentException("The load goes to this machine only.", nameof(address));
        var client = new HttpClient { BaseAddress = new Uri(address), Timeout = TimeSpan.FromMinutes(2) };
        (await client.PostAsJsonAsync("/api/session", new { email = "technician@demo.example", password = "draught-and-ember" })).EnsureSuccessStatusCode();
        return client;
    }
}
