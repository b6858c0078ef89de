using System.Buffers.Binary;

namespace Grate.Server.Features.Visits;

/// <summary>
/// Looks through the pieces of a picture's file before anything of it is decoded: a decoder that is fed megabytes of text beside a
/// small picture works for half a minute. (PNG chunks: ISO/IEC 15948; JPEG segments: ITU-T T.81; RIFF chunks of WebP.)
/// </summary>
internal static class PictureFile
{
    // Of what is no picture, this much in one piece: a colour profile, a preview, a place.
    private const int MostBeside = 64 * 1024;

    // Together, and in so many pieces.
    private const int MostBesideTogether = 1024 * 1024, MostPieces = 4096;

    private const string TooMany = "The picture's file is in too many pieces: save it anew and send it again.";

    private static readonly byte[] _png = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A];

    // What makes the picture itself; anything else lies beside it.
    private static readonly HashSet<string> _pictureChunks = ["IHDR", "PLTE", "IDAT", "IEND", "tRNS", "VP8 ", "VP8L", "VP8X", "ALPH"];

    /// <summary>Why a file is not decoded, in a sentence; null where nothing speaks against it.</summary>
    public static string? Against(ReadOnlySpan<byte> file)
    {
        var (beside, pieces) = (0L, 0);
        string? Weigh(long length, bool picture)
        {
            if (picture)
                return null;
            if (++pieces > MostPieces)
                return TooMany;
            beside += length;
            return length > MostBeside || beside > MostBesideTogether ? $"The picture's file holds more than {MostBeside / 1024} KB beside the picture: save it anew, without notes and profiles, and send it again." : null;
        }
        if (file.StartsWith(_png))
        {
            for (var at = 8L; at + 8 <= file.Length;)
            {
                var length = BinaryPrimitives.ReadUInt32BigEndian(file[(int)at..]);
                var name = System.Text.Encoding.Latin1.GetString(file.Slice((int)at + 4, 4));
                if (Weigh(length, _pictureChunks.Contains(name)) is { } why)
                    return why;
                at += 12L + length;
            }
        }
        else if (file.StartsWith("RIFF"u8))
        {
            for (var at = 12L; at + 8 <= file.Length;)
            {
                var length = BinaryPrimitives.ReadUInt32LittleEndian(file[((int)at + 4)..]);
                var name = System.Text.Encoding.Latin1.GetString(file.Slice((int)at, 4));
                if (Weigh(length, _pictureChunks.Contains(name)) is { } why)
                    return why;
                at += 8L + length + length % 2;
            }
        }
        else if (file.Length > 2 && file[0] == 0xFF && file[1] == 0xD8)
        {
            // Segments up to the first scan: each is 64 KB at most and stepped over, so that only their number tells.
            for (var at = 2; at + 4 <= file.Length && file[at] == 0xFF;)
            {
                var marker = file[at + 1];
                if (marker == 0xDA)
                    break;
                if (marker is 0xFF or 0x01 or (>= 0xD0 and <= 0xD8))
                {
                    at += marker == 0xFF ? 1 : 2;
                    continue;
                }
                var length = BinaryPrimitives.ReadUInt16BigEndian(file[(at + 2)..]);
                if (++pieces > MostPieces)
                    return TooMany;
                at += 2 + Math.Max((ushort)2, length);
            }
        }
        return null;
    }
}
