using MathNet.Numerics.LinearAlgebra;
using static Grate.Core.Sentence;

namespace Grate.Core.Combustor;

/// <summary>A place in a picture.</summary>
/// <param name="X">Share of its width from the left, 0..1.</param>
/// <param name="Y">Share of its height from the top, 0..1.</param>
public sealed record PicturePoint(double? X = null, double? Y = null);

/// <summary>A combustor that was held to a lamp and photographed.</summary>
/// <param name="Corners">Outer corners of its cells in the picture: upper left, upper right, lower right, lower left.</param>
/// <param name="Across">Cells across, counted, 4..60.</param>
/// <param name="Down">Cells down, counted, 2..60.</param>
public sealed record LightTestEntry(IReadOnlyList<PicturePoint>? Corners = null, int? Across = null, int? Down = null);

/// <summary>What a photograph said of a combustor, kept with the look at it.</summary>
/// <param name="PhotoId">The photo.</param>
/// <param name="Test">Where its cells are.</param>
/// <param name="DarkShare">Share of cells dark, 0..1.</param>
/// <param name="LowShare">Least share, 0..1.</param>
/// <param name="HighShare">Greatest share, 0..1.</param>
public sealed record LightReading(Guid? PhotoId = null, LightTestEntry? Test = null, double? DarkShare = null, double? LowShare = null, double? HighShare = null);

/// <summary>
/// What a photograph against a lamp says of a combustor's cells (handbook 05 section 1: light must pass evenly through). The face is
/// straightened by its four corners; every cell's middle is measured, without its walls; the lamp, brighter in its middle, is taken out by
/// a surface of the second degree through the light cells; then the cells are parted by Otsu's threshold.
/// </summary>
/// <param name="DarkShare">Share of cells dark; null where the picture is not good enough.</param>
/// <param name="LowShare">Least share, if every doubtful cell is light.</param>
/// <param name="HighShare">Greatest share, if every doubtful cell is dark.</param>
/// <param name="DarkAt">Middles of the dark cells in the picture.</param>
/// <param name="Sentences">In words.</param>
public sealed record LightTestAnswer(double? DarkShare, double? LowShare, double? HighShare, IReadOnlyList<PicturePoint> DarkAt, IReadOnlyList<Sentence> Sentences)
{
    // Judgements of our own (assumption), held to pictures that the tests make.
    private const double LeastBrightness = 60, LeastContrast = 0.6, LeastStep = 0.55, LeastWalls = 0.6, WallDepth = 0.92, LeastPitch = 5, Doubt = 0.3, Whole = 0.5;
    private const int Samples = 5, Profile = 16, Stride = 3, Rounds = 4;

    private static readonly EntryRange
        _across = new("Cells across", Quantity.Count, 4, 60),
        _down = new("Cells down", Quantity.Count, 2, 60),
        _place = new("Corner", Quantity.Share, 0, 1);

    /// <summary>Answers a photograph.</summary>
    /// <param name="entry">Where its cells are.</param>
    /// <param name="picture">The picture.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="LightTestEntry"/>.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static LightTestAnswer? To(LightTestEntry entry, GreyPicture picture, EntryErrors errors)
    {
        _ = errors.Need("across", entry.Across, _across) & errors.Need("down", entry.Down, _down);
        var corners = errors.Each("corners", entry.Corners, 4, "corners");
        if (entry.Corners is not { Count: >= 4 })
            errors.Add("corners", "Mark all four corners of the cells: upper left, upper right, lower right, lower left.");
        foreach (var (corner, i) in corners)
            _ = errors.Need($"corners[{i}].x", corner.X, _place) & errors.Need($"corners[{i}].y", corner.Y, _place);
        if (errors.Any)
            return null;
        (double X, double Y)[] at = [.. corners.Select(c => (c.Item.X!.Value * picture.Width, c.Item.Y!.Value * picture.Height))];
        if (!Perspective.Seen(at))
            return Poor("The corners are out of order: mark upper left, upper right, lower right, lower left, in turn.");
        return new Face(picture, new Perspective(at), entry.Across!.Value, entry.Down!.Value).Read();
    }

    private static LightTestAnswer Poor(string sentence) => new(null, null, null, [], [Say(sentence)]);

    private sealed class Face(GreyPicture picture, Perspective perspective, int across, int down)
    {
        private (double X, double Y) Place(double column, double row) => perspective.Of(column / across, row / down);

        private double At(double column, double row)
        {
            var (x, y) = Place(column, row);
            return picture.At(x, y);
        }

        private PicturePoint Middle(int cell)
        {
            var (x, y) = Place(cell % across + 0.5, cell / across + 0.5);
            return new(Math.Round(x / picture.Width, 4), Math.Round(y / picture.Height, 4));
        }

        // The middle half of a cell: its walls and what they throw on it are left out.
        private double Cell(int column, int row)
        {
            var sum = 0.0;
            for (var i = 0; i < Samples; i++)
                for (var j = 0; j < Samples; j++)
                    sum += At(column + 0.25 + 0.5 * (i + 0.5) / Samples, row + 0.25 + 0.5 * (j + 0.5) / Samples);
            return sum / (Samples * Samples);
        }

        public LightTestAnswer Read()
        {
            if (Pitch() < LeastPitch)
                return Poor("The cells are too small in the picture: go nearer, and let the combustor fill it.");
            double[] cells = [.. Enumerable.Range(0, across * down).Select(i => Cell(i % across, i / across))];
            // The third brightest: one or two may be a speck of the lamp itself.
            if (cells.OrderDescending().ElementAt(2) < LeastBrightness)
                return Poor("The picture is too dark: even its brightest cells let too little light through. Take a stronger lamp, or hold it nearer.");
            var lamp = Lamp(cells);
            double[] shares = [.. cells.Zip(lamp, (cell, light) => cell / light)];
            var (threshold, low, high) = Otsu.Split(shares);
            // Numbers are always parted in two; only where the parts are far apart are there dark cells.
            if (low > LeastContrast * high)
                (threshold, low) = (Whole * high, 0);
            var dark = shares.Select(s => s < threshold).ToArray();
            if (Poorness(cells, dark, lamp) is { } poor)
                return Poor(poor);
            var (sure, maybe) = (threshold - Doubt * (threshold - low), threshold + Doubt * (high - threshold));
            var count = (double)cells.Length;
            var (share, least, most) = (dark.Count(d => d) / count, shares.Count(s => s < sure) / count, shares.Count(s => s < maybe) / count);
            return new(share, least, most, [.. Enumerable.Range(0, cells.Length).Where(i => dark[i]).Select(Middle)], [Words(share, least, most)]);
        }

        // The shortest way between two cells in the picture, pixels.
        private double Pitch()
        {
            double Between(double c1, double r1, double c2, double r2)
            {
                var (a, b) = (Place(c1, r1), Place(c2, r2));
                return Math.Sqrt((a.X - b.X) * (a.X - b.X) + (a.Y - b.Y) * (a.Y - b.Y));
            }
            return new[] { Between(0, 0, 1, 0), Between(across - 1, 0, across, 0), Between(0, down, 1, down), Between(across - 1, down, across, down),
                Between(0, 0, 0, 1), Between(across, 0, across, 1), Between(0, down - 1, 0, down), Between(across, down - 1, across, down) }.Min();
        }

        // How bright a light cell is at each place: a surface through the cells that are light, found with them in a few rounds.
        private double[] Lamp(double[] cells)
        {
            var basis = Matrix<double>.Build.Dense(cells.Length, 6, (i, term) =>
            {
                var (u, v) = ((i % across + 0.5) / across - 0.5, (i / across + 0.5) / down - 0.5);
                return term switch { 0 => 1, 1 => u, 2 => v, 3 => u * u, 4 => u * v, _ => v * v };
            });
            double[] lamp = [.. cells.Select(_ => cells.Max())];
            for (var round = 0; round < Rounds; round++)
            {
                double[] shares = [.. cells.Zip(lamp, (cell, light) => cell / light)];
                var threshold = Otsu.Split(shares) is var (best, low, high) && low <= LeastContrast * high ? best : Whole * shares.Max();
                int[] light = [.. Enumerable.Range(0, cells.Length).Where(i => shares[i] >= threshold)];
                // Too few to lay a surface through: one brightness for all.
                if (light.Length < 12)
                    return [.. cells.Select(_ => light.Average(i => cells[i]))];
                // The logarithm: a lamp fades by shares.
                var surface = Matrix<double>.Build.DenseOfRowVectors(light.Select(basis.Row)).QR().Solve(Vector<double>.Build.DenseOfEnumerable(light.Select(i => Math.Log(Math.Max(1, cells[i])))));
                lamp = [.. (basis * surface).Select(Math.Exp)];
            }
            return lamp;
        }

        // On the way from a cell's middle to the next one's, over a stripe as broad as half a cell: noise is evened out.
        private double Way(int column, int row, int columns, int rows, double share) => Enumerable.Range(0, Samples)
            .Average(i => At(column + 0.5 + columns * share + rows * 0.5 * ((i + 0.5) / Samples - 0.5), row + 0.5 + rows * share + columns * 0.5 * ((i + 0.5) / Samples - 0.5)));

        // Between light and what is beside it a sharp picture steps at once; between two light cells stands a wall, where the corners fit.
        private string? Poorness(double[] cells, bool[] dark, double[] lamp)
        {
            var (steps, walls, pairs) = (new List<double>(), 0, 0);
            for (var i = 0; i < cells.Length; i++)
            {
                foreach (var (columns, rows) in ((int, int)[])[(1, 0), (0, 1)])
                {
                    var (column, row) = (i % across, i / across);
                    if (column + columns >= across || row + rows >= down)
                        continue;
                    var beside = i + columns + rows * across;
                    double[] way = [.. Enumerable.Range(0, Profile + 1).Select(k => Way(column, row, columns, rows, k / (double)Profile))];
                    var span = way.Max() - way.Min();
                    if (span > 0.25 * lamp[i])
                        steps.Add(way.Zip(way.Skip(Stride), (a, b) => Math.Abs(a - b)).Max() / span);
                    if (!dark[i] && !dark[beside])
                    {
                        pairs++;
                        if (way[(Profile / 2 - 1)..(Profile / 2 + 2)].Min() < WallDepth * (cells[i] + cells[beside]) / 2)
                            walls++;
                    }
                }
            }
            if (steps.Count < cells.Length / 4 || steps.Average() < LeastStep)
                return "The picture is blurred: the walls between the cells do not stand out. Hold still, and let the camera find the cells.";
            return pairs > 0 && walls < LeastWalls * pairs ? "The corners do not fit: the walls between the cells are not where they should be. Mark the outer corners of the cells again, and count the cells once more." : null;
        }
    }

    /// <summary>What a photograph says, with its doubt.</summary>
    internal static Sentence Words(double share, double least, double most)
    {
        static Span Percent(double share) => Computed(Units.Of(Quantity.Share, UnitSystem.Metric).Format(share));
        return most - least < 0.005 ? Say("By the photograph ", Percent(share), " of the cells are dark; none is doubtful.")
            : Say("By the photograph ", Percent(share), " of the cells are dark: ", Percent(least), " to ", Percent(most), " with the doubtful ones.");
    }
}
