using System.Collections;
using System.Reflection;
using System.Text.Json;

namespace Grate.Core.Tests.Visits;

/// <summary>
/// Every number of every station's entry has a range, whether or not anything else is there: each alone, far beyond what can be, is
/// refused or changes nothing that cannot be written down. (1e400 in JSON is read as infinity.)
/// </summary>
public class EntryExtremesTests
{
    private sealed class Walk : IStationVisitor
    {
        public List<string> Accepted { get; } = [];

        public int Numbers { get; private set; }

        public void Meet<TEntry, TAnswer>(Station<TEntry, TAnswer> station)
            where TEntry : class
            where TAnswer : class, IReckoned
        {
            var at = Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = "multi-fuel", Combustor = true } });
            foreach (var (path, entry) in Alone(typeof(TEntry), station.Code))
            {
                Numbers++;
                var errors = new EntryErrors();
                // Asked for the answer alone: what is refused is refused before anything is written.
                if (station.Answer((TEntry)entry, at, errors) is not null || !errors.Any)
                    Accepted.Add(path);
            }
        }
    }

    private static readonly string[] _keys = ["segment 1", "segment 2", "door", "floor-1", "latch-1", "hinge-bottom", "primary", "a"];

    // Every number of a type, alone in it, as far out as its type goes and as infinity.
    private static IEnumerable<(string Path, object Entry)> Alone(Type type, string path)
    {
        var constructor = type.GetConstructors().MaxBy(c => c.GetParameters().Length)!;
        foreach (var parameter in constructor.GetParameters())
        {
            foreach (var (name, value) in Values(parameter.ParameterType, $"{path}.{parameter.Name}"))
                yield return (name, constructor.Invoke([.. constructor.GetParameters().Select(p => p == parameter ? value : p.HasDefaultValue ? p.DefaultValue : Default(p.ParameterType))]));
        }
    }

    private static object? Default(Type type) => type.IsValueType ? Activator.CreateInstance(type) : typeof(IEnumerable).IsAssignableFrom(type) && type != typeof(string) ? ListOf(type) : null;

    private static IEnumerable<(string Path, object Value)> Values(Type declared, string path)
    {
        var type = Nullable.GetUnderlyingType(declared) ?? declared;
        if (type == typeof(double))
            return [.. new[] { 1e300, -1e300, double.PositiveInfinity, double.NegativeInfinity, double.NaN }.Select(v => ($"{path} = {v}", (object)v))];
        if (type == typeof(int))
            return [($"{path} = {int.MaxValue}", int.MaxValue), ($"{path} = {int.MinValue}", int.MinValue)];
        if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(IReadOnlyDictionary<,>))
            return _keys.SelectMany(key => Values(type.GetGenericArguments()[1], $"{path}[{key}]").Select(v => (v.Path, MapOf(type, key, v.Value))));
        if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(IReadOnlyList<>))
            return Values(type.GetGenericArguments()[0], $"{path}[]").Select(v => (v.Path, ListOf(type, v.Value)));
        return type.Namespace?.StartsWith("Grate", StringComparison.Ordinal) == true && type.IsClass ? Alone(type, path) : [];
    }

    private static object ListOf(Type type, params object[] items)
    {
        var of = type.IsGenericType ? type.GetGenericArguments()[0] : typeof(object);
        var list = Array.CreateInstance(of, items.Length);
        for (var i = 0; i < items.Length; i++)
            list.SetValue(items[i], i);
        return list;
    }

    private static object MapOf(Type type, string key, object value)
    {
        var map = (IDictionary)Activator.CreateInstance(typeof(Dictionary<,>).MakeGenericType(type.GetGenericArguments()))!;
        map[key] = value;
        return map;
    }

    [Fact]
    public void No_number_is_too_large_for_its_range_to_be_looked_at()
    {
        var walk = new Walk();
        foreach (var station in Parts.All.Stations)
            station.Accept(walk);
        Assert.True(walk.Numbers > 500, $"{walk.Numbers} numbers were tried.");
        Assert.Equal("", string.Join("\n", walk.Accepted));
    }
}
