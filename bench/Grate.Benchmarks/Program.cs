namespace Grate.Benchmarks; public static class P { public static void Main(){} }
