namespace Grate.Instruments.StandIn;

/// <summary>What goes on at the stove that the stand-in plays.</summary>
public enum Scenario
{
    /// <summary>A steady fire.</summary>
    Steady,

    /// <summary>No fire yet, cold air stands in the flue.</summary>
    ColdPlug,

    /// <summary>Wind gusts over the top.</summary>
    Gusts,

    /// <summary>The range hood runs.</summary>
    FanOn,

    /// <summary>The door leaks.</summary>
    DoorLeak,

    /// <summary>The cap is nearly closed.</summary>
    BlockedCap,

    /// <summary>A fire lit just now, run as in a hot test.</summary>
    HotRun,
}

/// <summary>What the person at the stand-in's page has set; shared by every connection.</summary>
/// <param name="clock">The clock that a fire runs by; the system's where none is given.</param>
public sealed class Stage(TimeProvider? clock = null)
{
    private readonly TimeProvider _clock = clock ?? TimeProvider.System;
    private DateTimeOffset _since;

    private int _garble, _generation;
    private volatile Scenario _scenario;
    private volatile bool _windowOpen;

    /// <summary>What goes on.</summary>
    public Scenario Scenario
    {
        get => _scenario;
        set
        {
            _since = _clock.GetUtcNow();
            _scenario = value;
        }
    }

    /// <summary>How long it goes on, s: a connection that comes later finds the fire as it is.</summary>
    public double ScenarioS => (_clock.GetUtcNow() - _since).TotalSeconds;

    /// <summary>Whether a window stands open.</summary>
    public bool WindowOpen
    {
        get => _windowOpen;
        set => _windowOpen = value;
    }

    /// <summary>Counts up when every connection is to be cut.</summary>
    public int Generation => Volatile.Read(ref _generation);

    /// <summary>Cuts every connection, as a flat battery would.</summary>
    public void Cut() => Interlocked.Increment(ref _generation);

    /// <summary>The next line of some connection is garbled.</summary>
    public void Garble() => Interlocked.Increment(ref _garble);

    /// <summary>Whether this line is to be garbled; once for each call of <see cref="Garble"/>.</summary>
    public bool TakeGarble()
    {
        if (Volatile.Read(ref _garble) <= 0)
            return false;
        if (Interlocked.Decrement(ref _garble) >= 0)
            return true;
        Interlocked.Increment(ref _garble);
        return false;
    }
}
