global using Grate.Core.Places;
global using Grate.Core.Visits;
global using Xunit;
