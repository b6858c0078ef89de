using Grate.Core.Combustor;

namespace Grate.Core.Tests.Combustor;

/// <summary>The light test by photograph, on pictures made here: seen at an angle, under an uneven lamp, with noise.</summary>
public class LightTestTests
{
    private const int Width = 640, Height = 480;

    /// <summary>A combustor before a lamp, as a camera sees it.</summary>
    private sealed record Scene(int Across, int Down, double Wall, bool[] Dark, (double X, double Y)[] Corners, (double U, double V) LampAt, double LampWidth, double Light, double Noise, int Blur)
    {
        public static Scene Random(Random random)
        {
            var metal = random.Next(2) == 0;
            var (across, down) = (random.Next(12, 29), random.Next(6, 15));
            var share = random.NextDouble() * 0.6;
            // A rectangle within the picture, each corner somewhere else.
            double Near(double at) => at + (random.NextDouble() - 0.5) * 0.12;
            (double, double)[] corners = [(Near(0.12), Near(0.15)), (Near(0.88), Near(0.15)), (Near(0.88), Near(0.85)), (Near(0.12), Near(0.85))];
            return new(across, down, metal ? 0.1 : 0.22, [.. Enumerable.Range(0, across * down).Select(_ => random.NextDouble() < share)], corners,
                (0.3 + 0.4 * random.NextDouble(), 0.3 + 0.4 * random.NextDouble()), 0.7 + random.NextDouble(), 150 + 90 * random.NextDouble(), 2 + 8 * random.NextDouble(), 0);
        }

        public double Share => Dark.Count(d => d) / (double)Dark.Length;

        public LightTestEntry Entry(double offX = 0) => new([.. Corners.Select(c => new PicturePoint(c.X + offX, c.Y))], Across, Down);

        public GreyPicture Draw(Random random)
        {
            var perspective = new Perspective([.. Corners.Select(c => (c.X * Width, c.Y * Height))]);
            var light = new double[Width * Height];
            // The face is laid over the picture in steps finer than its pixels; what is not the face is the room.
            Array.Fill(light, 25);
            const int steps = 900;
            for (var i = 0; i < steps; i++)
            {
                for (var j = 0; j < steps; j++)
                {
                    var (u, v) = ((i + 0.5) / steps, (j + 0.5) / steps);
                    var (x, y) = perspective.Of(u, v);
                    var (column, row) = (u * Across, v * Down);
                    var wall = Math.Min(Math.Min(column % 1, 1 - column % 1), Math.Min(row % 1, 1 - row % 1)) < Wall / 2;
                    var off = ((u - LampAt.U) * (u - LampAt.U) + (v - LampAt.V) * (v - LampAt.V)) / (LampWidth * LampWidth);
                    var lamp = Light * Math.Exp(-off);
                    light[(int)y * Width + (int)x] = wall ? 0.25 * lamp : Dark[(int)row * Across + (int)column] ? 0.12 * lamp : lamp;
                }
            }
            if (Blur > 0)
                light = Smoothed(Smoothed(light, Blur), Blur);
            return new(Width, Height, [.. light.Select(l => (byte)Math.Clamp(Math.Round(l + Noise * Normal(random)), 0, 255))]);
        }

        // Mean over so many pixels to each side, along rows and then along columns.
        private static double[] Smoothed(double[] light, int reach)
        {
            double[] Along(double[] from, int length, int step, int lines, int line)
            {
                var to = new double[from.Length];
                for (var l = 0; l < lines; l++)
                {
                    for (var i = 0; i < length; i++)
                    {
                        var (first, last) = (Math.Max(0, i - reach), Math.Min(length - 1, i + reach));
                        for (var k = first; k <= last; k++)
                            to[l * line + i * step] += from[l * line + k * step] / (last - first + 1);
                    }
                }
                return to;
            }
            return Along(Along(light, Width, 1, Height, Width), Height, Width, Width, 1);
        }

        private static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
    }

    private static LightTestAnswer Ask(Scene scene, Random random, double offX = 0)
    {
        var errors = new EntryErrors();
        var answer = LightTestAnswer.To(scene.Entry(offX), scene.Draw(random), errors);
        Assert.False(errors.Any);
        return answer!;
    }

    [Fact]
    public void Share_dark_is_within_three_points_in_95_of_100_pictures_and_within_its_doubt()
    {
        var scenes = Enumerable.Range(0, 100).AsParallel().Select(seed =>
        {
            var random = new Random(seed);
            var scene = Scene.Random(random);
            return (Scene: scene, Answer: Ask(scene, random));
        }).ToList();
        var off = scenes.Select(s => s.Answer.DarkShare is { } share ? Math.Abs(share - s.Scene.Share) : 1).ToList();
        Assert.True(off.Count(o => o <= 0.03) >= 95, string.Join(' ', scenes.Zip(off).Where(s => s.Second > 0.03).Select(s => $"{s.First.Scene.Share:F2}: {s.First.Answer.DarkShare:F2} {s.First.Answer.Sentences[0]}")));
        Assert.All(scenes.Where(s => s.Answer.DarkShare is not null), s => Assert.True(s.Answer.LowShare <= s.Answer.DarkShare && s.Answer.DarkShare <= s.Answer.HighShare));
    }

    [Theory]
    [InlineData(0.0)]
    [InlineData(0.02)]
    [InlineData(0.6)]
    [InlineData(0.95)]
    public void Hardly_any_and_nearly_all_are_told_apart(double share)
    {
        var random = new Random(7);
        var scene = Scene.Random(random);
        scene = scene with { Dark = [.. Enumerable.Range(0, scene.Dark.Length).Select(i => i < share * scene.Dark.Length)] };
        var answer = Ask(scene, random);
        Assert.InRange(answer.DarkShare!.Value, scene.Share - 0.03, scene.Share + 0.03);
    }

    // 20 pictures each: what is not good enough is said, never reckoned with.
    [Theory]
    [InlineData("dark", "too dark")]
    [InlineData("blurred", "blurred")]
    [InlineData("moved", "corners do not fit")]
    [InlineData("far", "too small")]
    public void Picture_that_is_not_good_enough_says_so(string fault, string said)
    {
        var told = Enumerable.Range(100, 20).AsParallel().Select(seed =>
        {
            var random = new Random(seed);
            var scene = Scene.Random(random);
            scene = fault switch
            {
                "dark" => scene with { Light = 40 },
                "blurred" => scene with { Blur = (int)(0.5 * 0.76 * Width / scene.Across) },
                "far" => scene with { Corners = [.. scene.Corners.Select(c => (0.4 + c.X * 0.15, 0.4 + c.Y * 0.15))] },
                _ => scene,
            };
            // Half a cell aside.
            return Ask(scene, random, fault == "moved" ? 0.5 * 0.76 / scene.Across : 0);
        }).Select(a => (a.DarkShare, Said: a.Sentences[0].ToString())).ToList();
        Assert.True(told.Count(t => t.DarkShare is null && t.Said.Contains(said, StringComparison.Ordinal)) == 20, string.Join('|', told.Select(t => $"{t.DarkShare:F2} {t.Said[..28]}")));
    }

    [Fact]
    public void Bad_entries_are_named()
    {
        var errors = new EntryErrors();
        Assert.Null(LightTestAnswer.To(new([new(0, 0), new(1.2, 0), null!], 3), new(1, 1, [0]), errors));
        Assert.Equal(["across", "corners", "corners[1].x", "corners[2]", "down"], errors.ByField.Keys.Order(StringComparer.Ordinal));
        var crossed = LightTestAnswer.To(new([new(0, 0), new(1, 1), new(1, 0), new(0, 1)], 8, 4), new(1, 1, [0]), new EntryErrors())!;
        Assert.StartsWith("The corners are out of order", crossed.Sentences[0].ToString(), StringComparison.Ordinal);
        Assert.Null(crossed.DarkShare);
        Assert.Contains("between 4 and 60", errors.ByField["across"][0], StringComparison.Ordinal);
    }

    // Whatever the angle, a rectangle's middle is where its diagonals cross.
    [Fact]
    public void Middle_of_a_face_is_where_its_diagonals_cross()
    {
        var random = new Random(3);
        for (var i = 0; i < 20; i++)
        {
            var corners = Scene.Random(random).Corners;
            var ((ax, ay), (bx, by), (cx, cy), (dx, dy)) = (corners[0], corners[1], corners[2], corners[3]);
            var t = ((bx - ax) * (dy - by) - (by - ay) * (dx - bx)) / ((cx - ax) * (dy - by) - (cy - ay) * (dx - bx));
            var (x, y) = new Perspective(corners).Of(0.5, 0.5);
            Assert.Equal((ax + t * (cx - ax), ay + t * (cy - ay)), (x, y), (one, other) => Math.Abs(one.Item1 - other.Item1) + Math.Abs(one.Item2 - other.Item2) < 1e-9);
        }
    }

    [Fact]
    public void Otsu_parts_numbers_where_the_classes_lie_farthest_apart()
    {
        Assert.Equal((3, 1.5, 4.5), Otsu.Split([1, 2, 4, 5]));
        Assert.Equal((2, 2, 2), Otsu.Split([2, 2, 2]));
        // By its definition, over every threshold.
        var random = new Random(5);
        for (var i = 0; i < 50; i++)
        {
            double[] values = [.. Enumerable.Range(0, 40).Select(_ => random.NextDouble() < 0.3 ? random.NextDouble() : 2 + random.NextDouble())];
            double Between(double threshold)
            {
                var (low, high) = (values.Where(v => v < threshold).ToList(), values.Where(v => v >= threshold).ToList());
                return low.Count == 0 || high.Count == 0 ? 0 : low.Count * (double)high.Count * Math.Pow(high.Average() - low.Average(), 2);
            }
            Assert.Equal(values.Max(Between), Between(Otsu.Split(values).Threshold), 6);
        }
    }
}
