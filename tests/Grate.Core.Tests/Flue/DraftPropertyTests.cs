using CsCheck;
using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>What must hold for every ordinary flue, not only for the worked ones.</summary>
public class DraftPropertyTests
{
    private sealed record Case(double PipeM, double StackM, double DiameterM, string Stack, double Burn, double Excess, double Collar, double Outdoor, double Altitude);

    private static readonly string[] _stacks = ["insulated-25", "insulated-50", "steel-liner-insulated"];

    private static readonly Gen<Case> _cases =
        from pipe in Gen.Double[0.5, 3]
        from stack in Gen.Double[3, 8]
        from diameter in Gen.Double[0.13, 0.25]
        from pick in Gen.Int[0, 2]
        from burn in Gen.Double[1, 4]
        from excess in Gen.Double[1.5, 3]
        from collar in Gen.Double[180, 400]
        from outdoor in Gen.Double[-20, 18]
        from altitude in Gen.Double[0, 2500]
        select new Case(pipe, stack, diameter, _stacks[pick], burn, excess, collar, outdoor, altitude);

    private static DraftEntry Question(Case c, params SegmentEntry[] segments) =>
        Flues.Question(Flues.Chain("low-resistance", segments), c.Burn, c.Excess, c.Collar, c.Outdoor) with
        { Surroundings = new SurroundingsEntry(c.Outdoor, 20, c.Altitude) };

    private static SegmentEntry Pipe(Case c, params string[] fittings) =>
        Flues.Segment("single-wall-steel", "indoor", c.PipeM, diameter: c.DiameterM, fittings: fittings);

    private static SegmentEntry Stack(Case c, double length) => Flues.Segment(c.Stack, "outdoor", length, diameter: c.DiameterM);

    private static double Expected(DraftEntry question) => Flues.Answer(question).ExpectedPa;

    // Gas that has cooled to the air around it weighs as much or, rich in CO2, a little more: there half a metre adds nothing
    // or costs some hundredths of a pascal. As long as it leaves 20 K warmer, taller pulls more.
    [Fact]
    public void Taller_is_never_weaker() => _cases.Sample(c =>
    {
        var (lower, taller) = (Flues.Answer(Question(c, Pipe(c), Stack(c, c.StackM))), Flues.Answer(Question(c, Pipe(c), Stack(c, c.StackM + 0.5))));
        return taller.ExpectedPa >= lower.ExpectedPa - (taller.ExitGasC > c.Outdoor + 20 ? 0 : 0.1);
    }, iter: 400);

    [Fact]
    public void Warmer_outdoors_is_never_stronger() => _cases.Sample(c =>
        Expected(Question(c with { Outdoor = c.Outdoor + 3 }, Pipe(c), Stack(c, c.StackM))) < Expected(Question(c, Pipe(c), Stack(c, c.StackM))), iter: 200);

    [Fact]
    public void More_fittings_never_help() => _cases.Sample(c =>
        Expected(Question(c, Pipe(c, "elbow-90"), Stack(c, c.StackM))) < Expected(Question(c, Pipe(c), Stack(c, c.StackM))), iter: 200);

    [Fact]
    public void Splitting_a_segment_changes_nothing() => Gen.Select(_cases, Gen.Double[0.1, 0.9]).Sample((c, at) =>
    {
        var whole = Expected(Question(c, Pipe(c), Stack(c, c.StackM)));
        var split = Expected(Question(c, Pipe(c), Stack(c, c.StackM * at), Stack(c, c.StackM * (1 - at))));
        return Math.Abs(split - whole) < 0.005 * Math.Abs(whole);
    }, iter: 200);

    [Fact]
    public void Buoyancy_scales_with_pressure_and_losses_against_it() => _cases.Sample(c =>
    {
        var low = Flues.Answer(Question(c with { Altitude = 0 }, Pipe(c), Stack(c, c.StackM)));
        var high = Flues.Answer(Question(c, Pipe(c), Stack(c, c.StackM)));
        var ratio = Core.Physics.DryAir.StationPressurePa(c.Altitude) / 101325;
        return Math.Abs(high.BuoyancyPa / low.BuoyancyPa - ratio) < 1e-9 && Math.Abs(low.LossesPa / high.LossesPa - ratio) < 1e-9;
    }, iter: 100);

    [Fact]
    public void Halving_the_pieces_moves_no_total_by_half_a_percent() => _cases.Sample(c =>
    {
        var read = DraftCase.Read(Question(c, Pipe(c), Stack(c, c.StackM)), new EntryErrors(), new Assumptions())!;
        var coarse = DraftModel.Expect(read.Flue, read.Fire, read.Air).March;
        var fine = DraftModel.Expect(read.Flue, read.Fire, read.Air, pieceM: FlueMarch.PieceM / 2).March;
        return Math.Abs(fine.BuoyancyPa - coarse.BuoyancyPa) < 0.005 * coarse.BuoyancyPa
            && Math.Abs(fine.LossesPa - coarse.LossesPa) < 0.005 * Math.Abs(coarse.LossesPa) + 1e-4;
    }, iter: 200);

    [Fact]
    public void Band_holds_the_expectation_and_its_parts_make_its_width() => _cases.Sample(c =>
    {
        var answer = Flues.Answer(Question(c, Pipe(c), Stack(c, c.StackM)));
        var sigma = Math.Sqrt(answer.Contributions.Sum(p => p.SigmaPa * p.SigmaPa));
        return answer.LowPa < answer.ExpectedPa && answer.ExpectedPa < answer.HighPa
            && Math.Abs((answer.HighPa - answer.LowPa) / 2 - 1.645 * sigma) < 1e-9;
    }, iter: 100);
}
