var b = WebApplication.CreateBuilder(args); b.Services.AddOpenApi(); var app = b.Build(); app.MapOpenApi(); app.MapGet("/x", () => new { a = 1 }); app.Run();
