using PhoneNumbers;

namespace Grate.Server;

/// <summary>Telephone numbers, however they are written.</summary>
internal static class Telephone
{
    /// <summary>The digits that every spelling of a number has in common, without the country's and the trunk's: 0664 12 34 and +43 664 12 34 are both 6641234.</summary>
    public static string DigitsOf(string number)
    {
        var written = string.Concat(number.Where(c => !char.IsWhiteSpace(c)));
        if (written.StartsWith("00", StringComparison.Ordinal))
            written = $"+{written[2..]}";
        if (written.StartsWith('+'))
        {
            try
            {
                var numbers = PhoneNumberUtil.GetInstance();
                return numbers.GetNationalSignificantNumber(numbers.Parse(written, null));
            }
            catch (NumberParseException)
            {
                // Too little of it yet, or no country's: its digits as they are.
            }
        }
        return string.Concat(number.Where(char.IsAsciiDigit)).TrimStart('0');
    }
}
