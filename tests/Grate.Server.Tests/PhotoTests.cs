using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using Grate.Core;
using Grate.Server.Features.Visits;
using SkiaSharp;

namespace Grate.Server.Tests;

/// <summary>Photos: turned upright, scaled, without where they were taken; refused where they are none; kept with the visit.</summary>
public sealed class PhotoTests(GrateServer server) : IClassFixture<GrateServer>
{
    // Left half red, right half blue, as a camera writes it.
    internal static byte[] Drawn(int width, int height, SKEncodedImageFormat format = SKEncodedImageFormat.Jpeg)
    {
        using var surface = SKSurface.Create(new SKImageInfo(width, height));
        surface.Canvas.Clear(SKColors.Blue);
        surface.Canvas.DrawRect(0, 0, width / 2f, height, new SKPaint { Color = SKColors.Red });
        using var image = surface.Snapshot();
        return image.Encode(format, 90).ToArray();
    }

    // Exif as cameras write it (Exif 2.3, TIFF 6.0): the orientation, and a place to the north as GPS latitude reference.
    private static byte[] WithExif(byte[] jpeg, byte orientation)
    {
        byte[] tiff =
        [
            .. "MM"u8, 0, 42, 0, 0, 0, 8, 0, 2,
            0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0,
            0x88, 0x25, 0, 4, 0, 0, 0, 1, 0, 0, 0, 38, 0, 0, 0, 0,
            0, 1, 0, 1, 0, 2, 0, 0, 0, 2, (byte)'N', 0, 0, 0, 0, 0, 0, 0, .. "Gravel Lane 3"u8,
        ];
        byte[] exif = [.. "Exif\0\0"u8, .. tiff];
        return [0xff, 0xd8, 0xff, 0xe1, (byte)((exif.Length + 2) >> 8), (byte)(exif.Length + 2), .. exif, .. jpeg[2..]];
    }

    private async Task<(HttpClient Client, string Visit)> OpenVisitAsync(int index)
    {
        var client = await server.SignedInAsync("technician");
        return (client, await client.VisitAsync(index));
    }

    private static string Address(string visit, Guid photo) => $"/api/visits/{visit}/photos/{photo}";

    private static async Task<JsonElement> PutAsync(HttpClient client, string visit, Guid photo, byte[] file, HttpStatusCode expected = HttpStatusCode.NoContent, string query = "?step=open-up&station=strip-down&part=baffle")
    {
        using var content = new ByteArrayContent(file) { Headers = { ContentType = new MediaTypeHeaderValue("image/jpeg") } };
        using var response = await client.PutAsync(Address(visit, photo) + query, content);
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.StatusCode == expected, $"{response.StatusCode}: {text}");
        return text.Length > 0 ? JsonDocument.Parse(text).RootElement : default;
    }

    private static string Refusal(JsonElement problem) => problem.GetProperty("errors").GetProperty("photo")[0].GetString()!;

    // The eight ways to hold a camera: where the red half comes to lie.
    [Theory]
    [InlineData(1, "left")]
    [InlineData(2, "right")]
    [InlineData(3, "right")]
    [InlineData(4, "left")]
    [InlineData(5, "top")]
    [InlineData(6, "top")]
    [InlineData(7, "bottom")]
    [InlineData(8, "bottom")]
    public async Task Photo_is_upright_scaled_and_says_no_more_where_it_was_taken(byte orientation, string red)
    {
        var file = WithExif(Drawn(2400, 1200), orientation);
        Assert.Contains("Gravel Lane", Encoding.Latin1.GetString(file), StringComparison.Ordinal);
        var errors = new EntryErrors();
        var picture = await Picture.ReadAsync(file, errors);
        Assert.False(errors.Any);
        Assert.Equal(orientation < 5 ? (1600, 800) : (800, 1600), (picture!.Width, picture.Height));
        var text = Encoding.Latin1.GetString(picture.Jpeg);
        Assert.DoesNotContain("Gravel Lane", text, StringComparison.Ordinal);
        Assert.DoesNotContain("Exif", text, StringComparison.Ordinal);
        using var kept = SKBitmap.Decode(picture.Jpeg);
        var (x, y) = red switch { "left" => (0.2, 0.5), "right" => (0.8, 0.5), "top" => (0.5, 0.2), _ => (0.5, 0.8) };
        var here = kept.GetPixel((int)(x * picture.Width), (int)(y * picture.Height));
        var there = kept.GetPixel((int)((1 - x) * picture.Width), (int)((1 - y) * picture.Height));
        Assert.True(here.Red > 200 && here.Blue < 60 && there.Blue > 200 && there.Red < 60, $"{here} and {there}");
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Webp)]
    public async Task Other_formats_become_jpeg(SKEncodedImageFormat format)
    {
        var picture = await Picture.ReadAsync(Drawn(300, 200, format), new EntryErrors());
        Assert.Equal((300, 200), (picture!.Width, picture.Height));
        Assert.Equal([0xff, 0xd8], picture.Jpeg[..2]);
    }

    // A chunk of a PNG (RFC 2083).
    private static byte[] Chunk(string name, params byte[] data)
    {
        byte[] body = [.. Encoding.ASCII.GetBytes(name), .. data];
        var crc = ~0u;
        foreach (var b in body)
        {
            crc ^= b;
            for (var bit = 0; bit < 8; bit++)
                crc = (crc & 1) == 1 ? crc >> 1 ^ 0xEDB88320 : crc >> 1;
        }
        return [.. BitConverter.GetBytes(data.Length).Reverse(), .. body, .. BitConverter.GetBytes(~crc).Reverse()];
    }

    // A picture that can be read, with text beside it, split into so many chunks.
    private static byte[] WithText(int bytes, int chunks = 1)
    {
        var picture = Drawn(40, 40, SKEncodedImageFormat.Png);
        var text = Chunk("tEXt", [.. "Comment\0"u8, .. Enumerable.Repeat((byte)'a', bytes / chunks)]);
        return [.. picture[..33], .. Enumerable.Repeat(text, chunks).SelectMany(t => t), .. picture[33..]];
    }

    // Eleven megabytes of text beside forty pixels would keep the decoder for half a minute: none of it is decoded.
    [Fact]
    public async Task A_picture_with_much_beside_it_is_refused_before_it_is_decoded()
    {
        async Task<string?> Said(byte[] file)
        {
            var errors = new EntryErrors();
            return await Picture.ReadAsync(file, errors) is null ? errors.ByField["photo"][0] : null;
        }
        const string Beside = "The picture's file holds more than 64 KB beside the picture";
        Assert.StartsWith(Beside, await Said(WithText(11_000_000)), StringComparison.Ordinal);
        Assert.StartsWith(Beside, await Said(WithText(2_000_000, 40)), StringComparison.Ordinal);
        Assert.Equal("The picture's file is in too many pieces: save it anew and send it again.", await Said(WithText(50_000, 5000)));
        Assert.Null(await Said(WithText(60_000)));
        // A length that reaches past the file's end, or past the largest number.
        Assert.NotNull(await Said([.. Drawn(40, 40, SKEncodedImageFormat.Png)[..33], 0xff, 0xff, 0xff, 0xff, .. "tEXt"u8]));
        // JPEG's segments hold 64 KB each at most; a camera writes a dozen.
        static byte[] Segments(int count) => [0xff, 0xd8, .. Enumerable.Repeat(new byte[] { 0xff, 0xfe, 0, 3, (byte)'a' }, count).SelectMany(s => s), .. Drawn(40, 40)[2..]];
        Assert.Equal("The picture's file is in too many pieces: save it anew and send it again.", await Said(Segments(5000)));
        Assert.Null(await Said(Segments(12)));
    }

    // PNG of a given size that holds no picture: header and end alone.
    private static byte[] Bomb(int side)
    {
        return [0x89, .. "PNG\r\n\x1a\n"u8, .. Chunk("IHDR", [.. BitConverter.GetBytes(side).Reverse(), .. BitConverter.GetBytes(side).Reverse(), 8, 2, 0, 0, 0]), .. Chunk("IDAT", 0x78, 0x9c, 3, 0, 0, 0, 0, 1), .. Chunk("IEND")];
    }

    [Fact]
    public async Task What_is_no_picture_is_refused_with_a_sentence()
    {
        var (client, visit) = await OpenVisitAsync(0);
        async Task<string> Said(byte[] file) => Refusal(await PutAsync(client, visit, Guid.CreateVersion7(), file, HttpStatusCode.BadRequest));
        Assert.StartsWith("This is no picture", await Said("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray()), StringComparison.Ordinal);
        Assert.StartsWith("This is no picture", await Said([]), StringComparison.Ordinal);
        Assert.Equal("The picture has 60000 × 60000 pixels; at most 50 million are read.", await Said(Bomb(60_000)));
        Assert.Contains("cut off or damaged", await Said(Drawn(400, 300)[..^200]), StringComparison.Ordinal);
        Assert.Contains("at least 16", await Said(Drawn(8, 8)), StringComparison.Ordinal);
        var unnamed = await PutAsync(client, visit, Guid.NewGuid(), Drawn(40, 40), HttpStatusCode.BadRequest, "?step=wood&station=strip-down");
        Assert.Equal(["part", "photoId", "station"], unnamed.GetProperty("errors").EnumerateObject().Select(e => e.Name).Order());
        Assert.Empty((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("photos").EnumerateArray());
    }

    [Fact]
    public async Task Photo_is_kept_once_shown_with_its_visit_and_taken_away_until_it_is_signed()
    {
        var (client, visit) = await OpenVisitAsync(1);
        var (photo, other) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => PutAsync(client, visit, photo, Drawn(400, 300))));
        await PutAsync(client, visit, other, Drawn(300, 400), query: "?step=inside&station=combustor&part=combustor");
        await PutAsync(client, visit, other, Drawn(300, 400), HttpStatusCode.Conflict);
        var shown = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("photos");
        Assert.Equal(["baffle 400×300", "combustor 300×400"], shown.EnumerateArray().Select(p => $"{p.Text("part")} {p.Number("width")}×{p.Number("height")}"));
        using var response = await client.GetAsync(Address(visit, photo));
        Assert.Equal(("image/jpeg", true), (response.Content.Headers.ContentType!.MediaType, response.Headers.CacheControl!.Private));
        Assert.Equal(shown[0].Text("sha256"), Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(await response.Content.ReadAsByteArrayAsync())));
        // By another visit's address it is not there.
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(Address(Guid.CreateVersion7().ToString(), photo))).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await client.DeleteAsync(Address(visit, other))).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await client.DeleteAsync(Address(visit, other))).StatusCode);

        await client.SignAsync(visit);
        Assert.Equal(HttpStatusCode.Conflict, (await client.DeleteAsync(Address(visit, photo))).StatusCode);
        await PutAsync(client, visit, Guid.CreateVersion7(), Drawn(400, 300), HttpStatusCode.Conflict);
        Assert.Single((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("photos").EnumerateArray());
        await Assert.ThrowsAnyAsync<Exception>(() => server.ScalarAsync<int>("with gone as (delete from photos returning 1) select count(*)::int from gone"));
    }

    [Fact]
    public async Task Visit_is_full_at_its_limit()
    {
        var (client, visit) = await OpenVisitAsync(2);
        await server.ScalarAsync<int>($"""
            with kept as (insert into photos (id, visit_id, step, station, part, width, height, jpeg, saved_at, saved_by)
                select gen_random_uuid(), '{visit}', 'open-up', 'strip-down', 'baffle', 1, 1, 'x', now(), technician_id from visits, generate_series(1, 60) where id = '{visit}' returning 1)
            select count(*)::int from kept
            """);
        Assert.StartsWith("A visit keeps at most 60 photos and 24 MB", Refusal(await PutAsync(client, visit, Guid.CreateVersion7(), Drawn(40, 40), HttpStatusCode.BadRequest)), StringComparison.Ordinal);
        Assert.Equal(60, (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("photos").GetArrayLength());
    }

    [Fact]
    public async Task Combustor_before_a_lamp_is_measured_on_its_photo()
    {
        // 12 × 6 cells from a tenth to nine tenths of the picture, every fourth dark.
        using var surface = SKSurface.Create(new SKImageInfo(960, 540));
        surface.Canvas.Clear(new SKColor(20, 20, 20));
        for (var i = 0; i < 72; i++)
            surface.Canvas.DrawRect(96 + 64 * (i % 12) + 6, 54 + 72 * (i / 12) + 6, 52, 60, new SKPaint { Color = i % 4 == 0 ? new SKColor(35, 30, 20) : new SKColor(230, 200, 140) });
        using var image = surface.Snapshot();
        var (client, visit) = await OpenVisitAsync(0);
        var photo = Guid.CreateVersion7();
        await PutAsync(client, visit, photo, image.Encode(SKEncodedImageFormat.Png, 100).ToArray(), query: "?step=inside&station=combustor&part=combustor");
        object[] corners = [new { x = 0.1, y = 0.1 }, new { x = 0.9, y = 0.1 }, new { x = 0.9, y = 0.9 }, new { x = 0.1, y = 0.9 }];
        var answer = await client.SendAsync(HttpMethod.Post, $"{Address(visit, photo)}/light-test", new { corners, across = 12, down = 6 });
        Assert.Equal((0.25, 18), (answer.Number("darkShare"), answer.GetProperty("darkAt").GetArrayLength()));
        Assert.Equal("By the photograph 25 % of the cells are dark; none is doubtful.", answer.GetProperty("sentences").Words());
        var refused = await client.SendAsync(HttpMethod.Post, $"{Address(visit, photo)}/light-test", new { corners, across = 3 }, HttpStatusCode.BadRequest);
        Assert.Equal(["across", "down"], refused.GetProperty("errors").EnumerateObject().Select(e => e.Name).Order());
        await client.SendAsync(HttpMethod.Post, $"{Address(visit, Guid.CreateVersion7())}/light-test", new { corners, across = 12, down = 6 }, HttpStatusCode.NotFound);
    }
}
