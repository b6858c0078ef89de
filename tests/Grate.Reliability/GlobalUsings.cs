global using Grate.Browser.Tests;
global using Grate.Server.Tests;
global using Xunit;

[assembly: CollectionBehavior(DisableTestParallelization = true)]
