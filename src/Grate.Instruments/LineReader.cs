namespace Grate.Instruments;

/// <summary>A line of bytes.</summary>
/// <param name="Bytes">Without its end; valid until the next one is read.</param>
/// <param name="TooLong">Whether it was longer than any frame; its bytes are not kept then.</param>
public readonly record struct Line(ReadOnlyMemory<byte> Bytes, bool TooLong);

/// <summary>Reads lines from a stream in bounded memory, whatever the other side sends.</summary>
/// <param name="stream">The stream; not closed here.</param>
public sealed class LineReader(Stream stream)
{
    private readonly byte[] _buffer = new byte[4 * InstrumentFrame.LongestLine];
    private int _from, _to;

    /// <summary>The next line, or null at the end.</summary>
    public async Task<Line?> ReadAsync(CancellationToken cancellation)
    {
        var tooLong = false;
        while (true)
        {
            var end = Array.IndexOf(_buffer, (byte)'\n', _from, _to - _from);
            if (end >= 0)
            {
                var line = new Line(_buffer.AsMemory(_from, end - _from), tooLong || end - _from > InstrumentFrame.LongestLine);
                _from = end + 1;
                return line;
            }
            if (_to - _from > InstrumentFrame.LongestLine)
            {
                tooLong = true;
                _from = _to;
            }
            _buffer.AsSpan(_from, _to - _from).CopyTo(_buffer);
            (_from, _to) = (0, _to - _from);
            var read = await stream.ReadAsync(_buffer.AsMemory(_to), cancellation);
            if (read == 0)
                return null;
            _to += read;
        }
    }
}
