using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.WebUtilities;

namespace Grate.Server.Access;

/// <summary>The secret in an address that stands in for a sign-in: told once, and only its hash is kept.</summary>
public static class Secret
{
    /// <summary>A new one, as it stands in the address.</summary>
    /// <param name="bytes">Bytes of chance in it.</param>
    public static string Make(int bytes) => WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(bytes));

    /// <summary>What is kept of it: SHA-256, 32 bytes.</summary>
    public static byte[] HashOf(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
