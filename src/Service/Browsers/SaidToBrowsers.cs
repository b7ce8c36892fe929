namespace YardRelay.Service.Browsers;

/// <summary>What a browser is told with each answer: to run nothing but the service's own pages, and to keep nothing of people.</summary>
internal static class SaidToBrowsers
{
    // Styles are set by components while a page runs; scripts never are.
    private const string Policy =
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; "
            + "form-action 'self'; frame-ancestors 'none'";

    /// <summary>Says it; an answer that has better to say does so over it.</summary>
    /// <param name="ofPeople">Where what is answered is of people.</param>
    public static Func<HttpContext, RequestDelegate, Task> Say(params PathString[] ofPeople) => (context, next) =>
    {
        var headers = context.Response.Headers;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers.ContentSecurityPolicy = Policy;
        // The console's pages are of nobody: they are asked for anew, and its files say otherwise.
        headers.CacheControl = ofPeople.Any(p => context.Request.Path.StartsWithSegments(p)) ? "no-store" : "no-cache";
        return next(context);
    };
}
