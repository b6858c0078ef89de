using System.Net.Http.Json;

namespace Grate.Benchmarks;

/// <summary>A client signed in at a server on this machine.</summary>
internal static class SignedIn
{
    /// <summary>Signs in with a person of the demo, its technician unless told otherwise.</summary>
    /// <exception cref="ArgumentException">The address is not on this machine: no load leaves it.</exception>
    public static async Task<HttpClient> ClientAsync(string address, string role = "technician")
    {
        if (!new Uri(address).IsLoopback)
            throw new ArgumentException("The load goes to this machine only.", nameof(address));
        var client = new HttpClient { BaseAddress = new Uri(address), Timeout = TimeSpan.FromMinutes(2) };
        (await client.PostAsJsonAsync("/api/session", new { email = $"{role}@demo.example", password = "draught-and-ember" })).EnsureSuccessStatusCode();
        return client;
    }
}
