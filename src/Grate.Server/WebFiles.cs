using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;

namespace Grate.Server;

/// <summary>The built web: its files, as compressed as the browser takes them, and its page for every other address.</summary>
public static class WebFiles
{
    private static readonly (string Coding, string Ending)[] _compressed = [("br", ".br"), ("gzip", ".gz")];

    /// <summary>Serves the files of a folder; a file compressed at the build goes out so where the browser accepts it.</summary>
    /// <param name="app">The server.</param>
    /// <param name="folder">The built web.</param>
    public static void UseWebFiles(this WebApplication app, string folder)
    {
        if (!Directory.Exists(folder))
            return;
        var (files, types) = (new PhysicalFileProvider(folder), new FileExtensionContentTypeProvider());
        // A compressed file keeps the kind of what is in it.
        types.Mappings.Remove(".gz");
        app.Use((context, next) =>
        {
            var (path, accepted) = (context.Request.Path, context.Request.GetTypedHeaders().AcceptEncoding);
            foreach (var (coding, ending) in _compressed)
            {
                if (!types.TryGetContentType(path, out var type) || !accepted.Any(a => a.Value == coding && a.Quality is not 0) || !files.GetFileInfo(path + ending).Exists)
                    continue;
                context.Response.Headers.ContentEncoding = coding;
                context.Response.Headers.Vary = "Accept-Encoding";
                context.Response.ContentType = type;
                context.Request.Path = path + ending;
                break;
            }
            return next(context);
        });
        app.UseStaticFiles(new StaticFileOptions
        {
            FileProvider = files,
            ContentTypeProvider = types,
            ServeUnknownFileTypes = true,
            OnPrepareResponse = file => file.Context.Response.Headers.CacheControl =
                file.Context.Request.Path.StartsWithSegments("/_app/immutable") ? "public, max-age=31536000, immutable" : "no-cache",
        });
    }

    /// <summary>
    /// Answers every address outside /api that is no file and no endpoint with the page, which shows what is there. No endpoint of
    /// its own: one that takes every address would hide which addresses take other methods.
    /// </summary>
    /// <param name="app">The server, after routing.</param>
    /// <param name="folder">The built web.</param>
    public static void UseWebPage(this WebApplication app, string folder) => app.Use((context, next) =>
    {
        var index = Path.Combine(folder, "index.html");
        if (context.GetEndpoint() is not null || context.Request.Path.StartsWithSegments("/api") || !HttpMethods.IsGet(context.Request.Method) || !File.Exists(index))
            return next(context);
        context.Response.ContentType = "text/html; charset=utf-8";
        context.Response.Headers.CacheControl = "no-cache";
        return context.Response.SendFileAsync(index);
    });
}
