using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>Lists of households from other programs.</summary>
public class HouseholdListTests
{
    private static readonly DateOnly _today = new(2026, 11, 28);
    private static readonly Whereabouts _valley = new(47.1, 10.2, 600);

    private static ListRow Read(string header, string cells, string usual = "steel") =>
        HouseholdList.Read(7, cells.Split(';'), HouseholdList.Propose(header.Split(';')), usual, place => place == "Tarnwick" ? _valley : null, _today, UnitSystem.Metric);

    [Theory]
    [InlineData("Name;Tel.;Street;Town;Stove type;Last swept", "name phone street place kind last-sweep")]
    [InlineData("Kunde;Telefon-Nummer;Straße;Ort;Ofenart;Baujahr;gekehrt am", "name phone street place kind year last-sweep")]
    [InlineData("Ort;KW;Seriennummer;E-Mail;Name", "place nominal-kw serial email name")]
    // The second of two for one thing, and what nobody knows, are left out.
    [InlineData("Name;Name;Shoe size", "name - -")]
    public void Columns_are_known_by_their_names_in_any_order(string header, string fields) =>
        Assert.Equal(fields, string.Join(' ', HouseholdList.Propose(header.Split(';')).Select(f => f is { } known ? Word.Of(known) : "-")));

    [Fact]
    public void What_goes_out_is_known_when_it_comes_in() =>
        Assert.Equal(Enum.GetValues<ListField>().Cast<ListField?>(), HouseholdList.Propose([.. Enum.GetValues<ListField>().Select(Word.Said)]));

    [Fact]
    public void Row_becomes_a_household_with_a_stove_and_what_is_told_of_it()
    {
        var row = Read("name;phone;street;place;kind;model;year;kw;combustor;last sweep", "Varga; 0555 12 34 ;4 Weir Bank;Tarnwick;Multi-fuel stove;Hearth 5;2012;6,5;no;14.03.2026");
        Assert.Null(row.Refused);
        Assert.Equal(("Varga", "0555 12 34", "multi-fuel", "Hearth 5", 2012, 6.5, new DateOnly(2026, 3, 14)),
            (row.Household.Name, row.Household.Phone, row.Household.Stove!.Kind, row.Household.Stove.Model, row.Household.Stove.Year, row.Household.Stove.NominalKw, row.LastSweep));
        Assert.Equal("insert", Read("name;street;place;kind", "Varga;1 Gap;Tarnwick;", "insert").Household.Stove!.Kind);
    }

    [Theory]
    [InlineData(";1 Gap;Tarnwick;steel;;", "Name is missing")]
    [InlineData("Varga;1 Gap;Tarnwick;rocket;;", "Kind")]
    [InlineData("Varga;1 Gap;Tarnwick;steel;last year;", "Year made: “last year” is no number.")]
    [InlineData("Varga;1 Gap;Tarnwick;steel;1066;", "Year must lie between 1800 and 2200")]
    [InlineData("Varga;1 Gap;Tarnwick;steel;2012.5;", "is no whole number")]
    [InlineData("Varga;1 Gap;Tarnwick;steel;2012;3/14/2026", "“3/14/2026” is no day such as 2026-03-14 or 14.03.2026")]
    [InlineData("Varga;1 Gap;Tarnwick;steel;2012;2027-03-14", "Last sweep lies between")]
    [InlineData("Varga;1 Gap;Elsewhere;steel;2012;", "Where it lies is not known")]
    public void Row_that_cannot_be_says_why(string cells, string sentence) => Assert.Contains(sentence, Read("name;street;place;kind;year;last sweep", cells).Refused, StringComparison.Ordinal);

    [Fact]
    public void Household_is_known_by_number_and_address()
    {
        Assert.Equal(["6641234", "4 weir bank\ntarnwick"], HouseholdList.Keys("6641234", " 4 Weir Bank", "TARNWICK"));
        Assert.Empty(HouseholdList.Keys("1234", "", "Tarnwick"));
    }

    [Theory]
    [InlineData("1,250", 1250)]
    [InlineData("1.250", 1250)]
    [InlineData("1.250,5", 1250.5)]
    [InlineData("1,250.5", 1250.5)]
    [InlineData("1250 m", 1250)]
    [InlineData("612,5", 612.5)]
    public void An_altitude_is_read_as_it_is_written(string cell, double altitudeM) =>
        Assert.Equal(altitudeM, Read("Name;Place;Altitude, m;Latitude;Longitude", $"Holm;Tarnwick;{cell};47,125;10,250").Household.AltitudeM);
}
