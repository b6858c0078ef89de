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
public sealed class Stage
{
    private int _garble, _generation;
    private volatile Scenario _scenario;
    private volatile bool _windowOpen;

    /// <summary>What goes on.</summary>
    public Scenario Scenario
    {
        get => _scenario;
        set => _scenario = value;
    }

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
