using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;
using Grate.Benchmarks;

return args switch
{
    ["core"] => Core(),
    ["http", var address] => await HttpLoad.RunAsync(address),
    ["editor", var address] => await EditorLoad.RunAsync(address),
    ["visit", var address] => await VisitLoad.RunAsync(address),
    ["live", var address, var server] => await LiveLoad.RunAsync(address, int.Parse(server)),
    ["season", var connection, var address] => await SeasonScale.RunAsync(connection, address),
    ["rounds"] => RoundScale.Run(),
    ["search", var connection] => await SearchScale.RunAsync(connection),
    _ => Usage(),
};

static int Core()
{
    // In process: the throw-away data folder holds no project to build again.
    BenchmarkRunner.Run([typeof(DraftBenchmark), typeof(DiagnosisBenchmark)], DefaultConfig.Instance
        .AddJob(Job.Default.WithToolchain(InProcessEmitToolchain.Instance))
        .WithArtifactsPath(Path.Combine(Path.GetTempPath(), "grate-benchmarks")));
    return 0;
}

static int Usage()
{
    Console.Error.WriteLine("Usage: core | rounds | http ADDRESS | editor ADDRESS | visit ADDRESS | live ADDRESS SERVER | search CONNECTION | season CONNECTION ADDRESS, or all of them by bench/run.");
    return 2;
}
