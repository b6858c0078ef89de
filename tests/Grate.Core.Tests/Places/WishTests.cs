using Grate.Core.Places;

namespace Grate.Core.Tests.Places;

/// <summary>What households wish, what stoves ask of people, and what labels say.</summary>
public class WishTests
{
    // 3 March 2026 is a Tuesday.
    private static readonly DateTime _tuesday = new(2026, 3, 3);

    [Theory]
    [InlineData("any", null, 16, 60, null)]
    [InlineData("mornings", null, 9, 60, null)]
    [InlineData("mornings", null, 12, 60, null)]
    [InlineData("mornings", null, 12, 75, "They asked for mornings.")]
    [InlineData("afternoons", null, 12, 60, null)]
    [InlineData("afternoons", null, 11, 120, "They asked for afternoons.")]
    [InlineData("any", "tuesday", 9, 60, "They cannot on a Tuesday.")]
    [InlineData("any", "wednesday", 9, 60, null)]
    [InlineData("mornings", "tuesday", 14, 60, "They cannot on a Tuesday. They asked for mornings.")]
    public void A_wish_is_held_against_a_time(string when, string? notOn, int hour, int minutes, string? said) =>
        Assert.Equal(said, new VisitWish(when, notOn is null ? [] : [notOn]).Against(_tuesday.AddHours(hour), minutes));

    [Fact]
    public void A_stove_that_is_not_cold_yet_is_said_so()
    {
        var wish = new VisitWish("any", [], new TimeOnly(10, 30));
        Assert.Equal("Their stove is not cold before 10:30.", wish.Against(_tuesday.AddHours(10), 60));
        Assert.Null(wish.Against(_tuesday.AddHours(10.5), 60));
    }

    [Fact]
    public void A_wish_leaves_a_day_of_the_week()
    {
        string[] Refused(VisitWish wish)
        {
            var errors = new EntryErrors();
            wish.Check("wish", errors);
            return [.. errors.ByField.Keys];
        }
        Assert.Empty(Refused(VisitWish.Any));
        Assert.Equal(["wish.notOn"], Refused(new("any", [.. Word.All<WorkDay>()])));
        Assert.Equal(["wish.when"], Refused(new("evenings")));
        Assert.NotEmpty(Refused(new("any", ["someday"])));
    }

    [Fact]
    public void A_stove_asks_for_what_not_everybody_can()
    {
        Assert.Empty(Skills.Of("steel", false, false, false));
        Assert.Equal([Skill.Roof, Skill.Liner, Skill.MasonryHeater], Skills.Of(StoveKind.MasonryHeater, false, true, true));
        Assert.Equal([Skill.Combustor], Skills.Of("insert", true, false, false));
        Assert.Null(Skills.Lacks("Tobin Lark", ["roof", "combustor"], [Skill.Combustor]));
        Assert.Equal("Tobin Lark is not down for masonry heaters.", Skills.Lacks("Tobin Lark", ["roof"], [Skill.MasonryHeater]));
        Assert.Equal("Ann and Bo are not down for work on the roof and steel liners.", Skills.Lacks("Ann and Bo", [], [Skill.Roof, Skill.Liner]));
    }

    [Fact]
    public void Customers_are_kept_without_what_is_around_their_words()
    {
        var told = new Customer(Guid.CreateVersion7(), " Ann ", " 0555 ", "", "", [new(" neighbour ", "0555 01 ", "")]);
        var tidy = told.Tidy();
        Assert.Equal(("Ann", "0555", "any"), (tidy.Name, tidy.Phone, tidy.Wish!.When));
        Assert.Equal(new Contact("neighbour", "0555 01", ""), Assert.Single(tidy.Contacts!));
        var errors = new EntryErrors();
        (told with { Contacts = [new("", "1"), new("nobody"), new("x", "", "no mail")] }).Check(errors);
        Assert.Equal(["contacts[0].whose", "contacts[1].phone", "contacts[2].email"], errors.ByField.Keys.Order());
    }
}
