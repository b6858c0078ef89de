using MathNet.Numerics.LinearAlgebra;

namespace Grate.Core.Combustor;

/// <summary>A picture by its brightness.</summary>
/// <param name="Width">Pixels across, 1 or more.</param>
/// <param name="Height">Pixels down, 1 or more.</param>
/// <param name="Pixels">0 black to 255 white, row by row from the upper left.</param>
public sealed record GreyPicture(int Width, int Height, byte[] Pixels)
{
    /// <summary>Brightness between pixels (bilinear); beyond the edge that of the edge.</summary>
    /// <param name="x">Pixels from the left edge; the first one's middle is at 0.5.</param>
    /// <param name="y">Pixels from the upper edge.</param>
    public double At(double x, double y)
    {
        var (left, top) = (Math.Clamp(x - 0.5, 0, Width - 1), Math.Clamp(y - 0.5, 0, Height - 1));
        var (column, row) = ((int)left, (int)top);
        var (right, below) = (Math.Min(column + 1, Width - 1), Math.Min(row + 1, Height - 1));
        var (across, down) = (left - column, top - row);
        return (Pixels[row * Width + column] * (1 - across) + Pixels[row * Width + right] * across) * (1 - down)
            + (Pixels[below * Width + column] * (1 - across) + Pixels[below * Width + right] * across) * down;
    }
}

/// <summary>
/// A flat rectangle seen from anywhere: where its places lie in the picture (homography from four points, Hartley and Zisserman,
/// Multiple View Geometry, section 4.1).
/// </summary>
public sealed class Perspective
{
    private readonly double[] _h;

    /// <summary>By the picture's places of the rectangle's corners: upper left, upper right, lower right, lower left.</summary>
    public Perspective(IReadOnlyList<(double X, double Y)> corners)
    {
        (double U, double V)[] at = [(0, 0), (1, 0), (1, 1), (0, 1)];
        var rows = at.Zip(corners).SelectMany(p => new double[][]
        {
            [p.First.U, p.First.V, 1, 0, 0, 0, -p.First.U * p.Second.X, -p.First.V * p.Second.X],
            [0, 0, 0, p.First.U, p.First.V, 1, -p.First.U * p.Second.Y, -p.First.V * p.Second.Y],
        });
        _h = [.. Matrix<double>.Build.DenseOfRowArrays(rows).Solve(Vector<double>.Build.DenseOfEnumerable(corners.SelectMany(c => new[] { c.X, c.Y })))];
    }

    /// <summary>Where a place of the rectangle lies in the picture.</summary>
    /// <param name="u">Across, 0..1 from the left.</param>
    /// <param name="v">Down, 0..1 from the top.</param>
    public (double X, double Y) Of(double u, double v)
    {
        var depth = _h[6] * u + _h[7] * v + 1;
        return ((_h[0] * u + _h[1] * v + _h[2]) / depth, (_h[3] * u + _h[4] * v + _h[5]) / depth);
    }

    /// <summary>Whether four corners, in turn, are those of a rectangle seen from its front: each turn goes the same way.</summary>
    public static bool Seen(IReadOnlyList<(double X, double Y)> corners) => Enumerable.Range(0, 4).All(i =>
    {
        var (a, b, c) = (corners[i], corners[(i + 1) % 4], corners[(i + 2) % 4]);
        return (b.X - a.X) * (c.Y - b.Y) - (b.Y - a.Y) * (c.X - b.X) > 0;
    });
}

/// <summary>The value that parts a set of numbers best in two (N. Otsu, A threshold selection method from gray-level histograms, 1979).</summary>
public static class Otsu
{
    /// <summary>The threshold with the greatest variance between the two classes, midway between their nearest members. 3 of 1, 2, 4, 5.</summary>
    /// <param name="values">At least two numbers.</param>
    /// <returns>The threshold, and the classes' means; the numbers' mean three times where all are equal.</returns>
    public static (double Threshold, double Low, double High) Split(IReadOnlyList<double> values)
    {
        double[] sorted = [.. values.Order()];
        var total = sorted.Sum();
        var (best, found) = (0.0, (Threshold: total / sorted.Length, Low: total / sorted.Length, High: total / sorted.Length));
        var sum = 0.0;
        for (var count = 1; count < sorted.Length; count++)
        {
            sum += sorted[count - 1];
            var (low, high) = (sum / count, (total - sum) / (sorted.Length - count));
            var between = (double)count * (sorted.Length - count) * (high - low) * (high - low);
            if (between > best)
                (best, found) = (between, ((sorted[count - 1] + sorted[count]) / 2, low, high));
        }
        return found;
    }
}
