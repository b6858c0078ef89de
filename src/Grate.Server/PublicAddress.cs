namespace Grate.Server;

/// <summary>
/// Where this installation is reached from outside: links in messages lead there, whatever host a request names. Without the setting
/// Public:Address it answers to this machine alone, and links lead to it.
/// </summary>
/// <param name="setting">Public:Address, such as https://grate.firm.example; null where it is not set.</param>
public sealed class PublicAddress(string? setting)
{
    private static readonly string[] _here = ["localhost", "127.0.0.1", "[::1]"];

    private readonly Uri? _address = string.IsNullOrWhiteSpace(setting) ? null
        : Uri.TryCreate(setting, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" && uri.PathAndQuery == "/" ? uri
        : throw new InvalidOperationException($"Public:Address is an address such as https://grate.firm.example; “{setting}” is set.");

    /// <summary>Hosts that are answered to, as AllowedHosts takes them.</summary>
    public string Hosts => string.Join(';', _address is null ? _here : [.. _here, _address.Host]);

    /// <summary>A link that works from outside.</summary>
    /// <param name="request">Who asks; its host is one that is answered to.</param>
    /// <param name="path">Path on this server.</param>
    public string Link(HttpRequest request, string path) => $"{(_address is { } known ? known.GetLeftPart(UriPartial.Authority) : $"{request.Scheme}://{request.Host}")}{path}";
}
