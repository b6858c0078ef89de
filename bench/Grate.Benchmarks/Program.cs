using BenchmarkDotNet.Running;
using Grate.Benchmarks;

return args switch
{
    ["core"] => Core(),
    ["http", var address] => await HttpLoad.RunAsync(address),
    ["search", var connection] => await SearchScale.RunAsync(connection),
    _ => Usage(),
};

static int Core()
{
    BenchmarkRunner.Run<DraftBenchmark>();
    return 0;
}

static int Usage()
{
    Console.Error.WriteLine("Usage: core | http ADDRESS | search CONNECTION, or all of them by bench/run.");
    return 2;
}
