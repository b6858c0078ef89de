using Grate.Core;
using Grate.Core.Combustor;
using SkiaSharp;

namespace Grate.Server.Features.Visits;

/// <summary>A picture as it is kept: upright, scaled down, drawn anew, so that nothing but what it shows is left of the file.</summary>
/// <param name="Jpeg">The file.</param>
/// <param name="Width">Width, pixels.</param>
/// <param name="Height">Height, pixels.</param>
public sealed record Picture(byte[] Jpeg, int Width, int Height)
{
    /// <summary>Most bytes that are sent.</summary>
    public const int MostBytes = 12 * 1024 * 1024;

    /// <summary>What is said of a larger file.</summary>
    public static readonly string TooLarge = $"That is too large: a picture of at most {MostBytes / 1024 / 1024} MB is read.";

    private const int LongestSide = 1600, LeastSide = 16, Quality = 82;
    private const long MostPixels = 50_000_000;

    // A picture unpacks to 200 MB at most: two at a time are enough for a machine.
    private static readonly SemaphoreSlim _turn = new(2);
    private static readonly TimeSpan _longestWait = TimeSpan.FromSeconds(30);

    /// <summary>Reads a picture.</summary>
    /// <param name="file">The file as sent.</param>
    /// <param name="errors">Takes the refusal, by "photo".</param>
    /// <returns>The picture, or null where it was refused.</returns>
    public static async Task<Picture?> ReadAsync(byte[] file, EntryErrors errors)
    {
        // Who waits for a turn for longer than this is told; a queue of them stops nobody's work for good.
        if (!await _turn.WaitAsync(_longestWait))
        {
            errors.Add("photo", "Many pictures are being read just now: send it again in a minute.");
            return null;
        }
        try
        {
            return await Task.Run(() => Read(file, errors));
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>A kept picture by its brightness.</summary>
    public static GreyPicture Brightness(byte[] jpeg)
    {
        using var bitmap = SKBitmap.Decode(jpeg);
        // Brightness as the eye weighs it (ITU-R BT.601).
        return new(bitmap.Width, bitmap.Height, [.. bitmap.Pixels.Select(p => (byte)Math.Round(0.299 * p.Red + 0.587 * p.Green + 0.114 * p.Blue))]);
    }

    private static Picture? Read(byte[] file, EntryErrors errors)
    {
        if (PictureFile.Against(file) is { } odd)
            return Refuse(odd);
        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data);
        if (codec?.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp))
            return Refuse("This is no picture that can be read: send JPEG, PNG or WebP.");
        // Told before anything is unpacked: a few bytes may stand for a picture that fills the memory.
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        if ((long)width * height > MostPixels)
            return Refuse($"The picture has {width} × {height} pixels; at most {MostPixels / 1_000_000} million are read.");
        if (Math.Min(width, height) < LeastSide)
            return Refuse($"The picture has {width} × {height} pixels; at least {LeastSide} each way are needed.");
        using var sent = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        if (codec.GetPixels(sent.Info, sent.GetPixels()) != SKCodecResult.Success)
            return Refuse("The picture is cut off or damaged: send it again.");

        var turned = codec.EncodedOrigin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var scale = Math.Min(1, LongestSide / (double)Math.Max(width, height));
        var (wide, high) = ((int)Math.Round((turned ? height : width) * scale), (int)Math.Round((turned ? width : height) * scale));
        using var surface = SKSurface.Create(new SKImageInfo(Math.Max(1, wide), Math.Max(1, high), SKColorType.Rgba8888, SKAlphaType.Opaque));
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.Scale((float)scale);
        surface.Canvas.Concat(Upright(codec.EncodedOrigin, width, height));
        using var image = SKImage.FromBitmap(sent);
        surface.Canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var upright = surface.Snapshot();
        using var jpeg = upright.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return new Picture(jpeg.ToArray(), upright.Width, upright.Height);

        Picture? Refuse(string sentence)
        {
            errors.Add("photo", sentence);
            return null;
        }
    }

    // Where a camera was held otherwise it says so (Exif 2.3, orientation 1 to 8).
    private static SKMatrix Upright(SKEncodedOrigin origin, int width, int height) => origin switch
    {
        SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
        SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
        SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
        SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
        SKEncodedOrigin.RightTop => new SKMatrix(0, -1, height, 1, 0, 0, 0, 0, 1),
        SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, height, -1, 0, width, 0, 0, 1),
        SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, width, 0, 0, 1),
        _ => SKMatrix.Identity,
    };
}
