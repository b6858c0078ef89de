global using Grate.Browser.Tests;
global using Grate.Server.Tests;
global using Xunit;

// Drills wait more than they work; more than two at once would stretch what they time.
[assembly: CollectionBehavior(MaxParallelThreads = 2)]
