using ArchUnitNET.Domain;
using ArchUnitNET.Loader;
using static ArchUnitNET.Fluent.ArchRuleDefinition;

namespace Grate.Core.Tests;

/// <summary>Dependencies between the parts go one way.</summary>
public class LayeringTests
{
    private static readonly Architecture _core = new ArchLoader().LoadAssembly(typeof(EntryErrors).Assembly).Build();

    // From the ground up: each may use what stands before it, nothing that comes after.
    private static readonly string[] _order =
        ["Physics", "Places", "Visits", "Fuel", "Flue", "Deposits", "Air", "Door", "Stock", "Section", "Firebox", "Combustor", "Clearances", "Burning", "Diagnosis", "Household", "Service"];

    public static TheoryData<string> Layers => [.. _order];

    [Theory]
    [MemberData(nameof(Layers))]
    public void Nothing_leans_on_what_stands_above_it(string layer)
    {
        var above = _order[(Array.IndexOf(_order, layer) + 1)..];
        var own = Types().That().ResideInNamespaceMatching($@"^Grate\.Core\.{layer}$").GetObjects(_core).ToList();
        Assert.NotEmpty(own);
        var leaning = own.SelectMany(t => t.Dependencies.Select(d => (From: t, To: d.Target)))
            .Where(d => above.Any(a => d.To.Namespace?.FullName == $"Grate.Core.{a}")).Select(d => $"{d.From.FullName} uses {d.To.FullName}").Distinct();
        Assert.Equal("", string.Join("\n", leaning));
    }

    [Fact]
    public void Every_namespace_has_its_place() =>
        Assert.Equal(_order.Order(), _core.Namespaces.Select(n => n.FullName).Where(n => n.StartsWith("Grate.Core.", StringComparison.Ordinal) && n.Count(c => c == '.') == 2)
            .Select(n => n["Grate.Core.".Length..]).Order());

    // The same core runs in a browser: no database, no web server, nothing native.
    [Fact]
    public void Core_uses_the_base_library_and_mathematics_alone()
    {
        Assert.All(typeof(EntryErrors).Assembly.GetReferencedAssemblies(), a => Assert.Matches(@"^(System(\..*)?|MathNet\.Numerics)$", a.Name));
    }
}
