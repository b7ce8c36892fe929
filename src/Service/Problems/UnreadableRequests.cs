using System.Data.Common;
using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;

namespace YardRelay.Service.Problems;

/// <summary>Says in words why a request could not be read, before any work began.</summary>
internal sealed class UnreadableRequests : IExceptionHandler
{
    // SQLSTATE of a text that is none in the database's encoding (PostgreSQL, appendix A): from here only NUL can be that.
    private const string NotInEncoding = "22021";

    /// <summary>Answers all that cannot be read.</summary>
    public static void Add(IServiceCollection services)
    {
        services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
        services.AddExceptionHandler<UnreadableRequests>();
        // Where a part of the address or query cannot be read, the framework answers without words.
        services.AddProblemDetails(o => o.CustomizeProblemDetails = context =>
        {
            if (context.ProblemDetails is not { Status: 400, Detail: null } bare) return;
            var problem = new RequestPartUnreadable();
            bare.Detail = problem.Message;
            bare.Extensions["code"] = problem.Code;
        });
    }

    /// <summary>Answers a request whose address or query holds NUL.</summary>
    public static Task PassAsync(HttpContext context, RequestDelegate next) =>
        HasNul(context.Request.Path.Value) || context.Request.Query.Any(q => HasNul(q.Key) || q.Value.Any(HasNul))
            ? new TextWithNul().ToHttp().ExecuteAsync(context)
            : next(context);

    /// <inheritdoc/>
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var address = $"{httpContext.Request.Method} {httpContext.Request.Path}";
        Problem? problem = exception switch
        {
            BadHttpRequestException { StatusCode: 400, InnerException: JsonException json } =>
                new RequestBodyUnreadable(json.Path ?? "", address),
            BadHttpRequestException { StatusCode: 400 } bare when bare.Message.Contains("body", StringComparison.Ordinal) =>
                new RequestBodyUnreadable("", address),
            BadHttpRequestException { StatusCode: 400 } => new RequestPartUnreadable(),
            DbException { SqlState: NotInEncoding } or DbUpdateException { InnerException: DbException { SqlState: NotInEncoding } } =>
                new TextWithNul(),
            _ => null,
        };
        if (problem is null) return false;
        await problem.ToHttp().ExecuteAsync(httpContext);
        return true;
    }

    private static bool HasNul(string? text) => text?.Contains('\0', StringComparison.Ordinal) == true;
}
