using Grate.Core;
using Grate.Core.Flue;
using MathNet.Numerics.Distributions;

namespace Grate.Instruments.StandIn;

/// <summary>What the instruments would read now.</summary>
/// <param name="DraftPa">Draft at the collar, Pa.</param>
/// <param name="RoomPa">Room against outdoors, Pa.</param>
/// <param name="FlueC">Gas at the collar, °C.</param>
/// <param name="RoomC">Room, °C.</param>
/// <param name="CoPpm">Carbon monoxide in the room, ppm.</param>
/// <param name="MoistureDryShare">Moisture of the wood on the meter's dry basis.</param>
public sealed record StandInReadings(double DraftPa, double RoomPa, double FlueC, double RoomC, double CoPpm, double MoistureDryShare);

/// <summary>A stove played by the core's own model: readings drift, swing, and answer to window and fan.</summary>
public sealed class StandInStove
{
    private const double RestingRoomPa = -1, HoodM3S = 0.15, WindowLeaves = 0.03;

    // Time constants of house, fire and flue, s.
    private const double HouseS = 3, FireS = 25;
    // Against a deeper vacuum a hood delivers next to nothing more: windows whistle before.
    private const double DeepestFansPa = -20;
    private const double CapClosed = 0.90, LeakyExcessAir = 4.5, LeakyGasShare = 0.62;

    private readonly FlueSystem _flue;
    private readonly Surroundings _air;
    private readonly HouseLeakage _house;
    private readonly Random _random;
    private readonly double _burnKgH;
    // Flue gas of an ordinary hot test: minutes since lighting, °C. After 20 minutes a combustor lights off.
    private static readonly (double Minute, double C)[] _run = [(0, 22), (2, 80), (5, 150), (10, 230), (15, 290), (20, 320), (34, 410), (60, 410), (90, 300), (180, 180)];

    private bool _running;
    private double _time, _roomPa = RestingRoomPa, _gasC = 240, _noise, _gust;

    /// <summary>A stove at a place.</summary>
    /// <param name="place">Where it stands.</param>
    /// <param name="seed">Seed of its noise.</param>
    /// <exception cref="ArgumentException">The place's flue cannot be read.</exception>
    public StandInStove(InstrumentPlace place, int seed)
    {
        var errors = new EntryErrors();
        var read = DraftCase.Read(new DraftEntry(new SurroundingsEntry(place.OutdoorC, place.IndoorC, place.AltitudeM), place.Flue), errors, new Assumptions())
            ?? throw new ArgumentException(string.Join(" ", errors.ByField.SelectMany(e => e.Value)), nameof(place));
        (_flue, _air) = (read.Flue, read.Air);
        _house = HouseLeakage.Of(place.VolumeM3, place.Ach50);
        _random = new Random(seed);
        _burnKgH = place.BurnKgH ?? FlueLimits.Burn(FiringLevel.Normal).Value;
    }

    /// <summary>Lets some time pass and reads the instruments.</summary>
    /// <param name="stage">What goes on.</param>
    /// <param name="seconds">Time since the last reading, s.</param>
    public StandInReadings Step(Stage stage, double seconds)
    {
        _time += seconds;
        var scenario = stage.Scenario;
        var roomGoal = (RestingRoomPa + (scenario == Scenario.FanOn ? Math.Max(DeepestFansPa, _house.FansPa(HoodM3S)) : 0)) * (stage.WindowOpen ? WindowLeaves : 1);
        _roomPa += (roomGoal - _roomPa) * Lag(seconds, HouseS);
        if (scenario == Scenario.HotRun && !_running)
            _gasC = RunC(stage.ScenarioS / 60);
        _running = scenario == Scenario.HotRun;
        var gasGoal = _running ? RunC(stage.ScenarioS / 60) : (240 + 8 * Math.Sin(_time / 47)) * (scenario == Scenario.DoorLeak ? LeakyGasShare : 1);
        _gasC += (gasGoal - _gasC) * Lag(seconds, FireS);
        _noise += -_noise * Lag(seconds, 2) + 0.12 * Math.Sqrt(seconds) * Noise();
        _gust += -_gust * Lag(seconds, 4) + Math.Sqrt(seconds) * Noise();

        var air = _air with { HousePressurePa = new Given(_roomPa, Origin.Measured) };
        if (scenario == Scenario.ColdPlug)
        {
            var cold = ColdStart.Of(_flue, air, air.OutdoorC - 8, HeatSource.Torch);
            return Readings(Math.Min(cold.DraftPa, -1.5) + _noise, air.IndoorC - 6);
        }
        var fire = Fire.Ordinary(FiringLevel.Normal) with { CollarGasC = new Given(_gasC, Origin.Measured), BurnKgH = new Given(_burnKgH, Origin.Entered) };
        if (scenario == Scenario.DoorLeak)
            fire = fire with { ExcessAir = new Given(LeakyExcessAir, Origin.Entered) };
        var expected = DraftModel.Expect(_flue, fire, air);
        var draft = expected.Pa + _noise;
        if (scenario == Scenario.BlockedCap)
            draft -= DraftMeaning.BlockageZeta(CapClosed) * expected.March.CollarHeadPa;
        if (scenario == Scenario.Gusts)
            draft -= expected.Pa * (0.15 + 0.22 * _gust);
        return Readings(draft, _gasC);
    }

    private StandInReadings Readings(double draftPa, double flueC) => new(
        draftPa, _roomPa + 0.05 * Noise(), flueC + 0.5 * Noise(), _air.IndoorC + 0.1 * Noise(),
        Math.Max(0, 2 + (draftPa < 0 ? -4 * draftPa : 0) + 0.4 * Noise()), 0.21 + 0.004 * Noise());

    private static double RunC(double minute)
    {
        var after = Array.FindIndex(_run, p => p.Minute > minute);
        if (after <= 0)
            return _run[after < 0 ? ^1 : 0].C;
        var (a, b) = (_run[after - 1], _run[after]);
        return a.C + (b.C - a.C) * (minute - a.Minute) / (b.Minute - a.Minute);
    }

    private double Noise() => Normal.Sample(_random, 0, 1);

    private static double Lag(double seconds, double constant) => 1 - Math.Exp(-seconds / constant);
}
