using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Writing;

/// <summary>A request that may be repeated: who, which key, and what it says.</summary>
/// <param name="IsSecret">Its answer holds a secret, and is kept encrypted.</param>
internal sealed record Repeat(string Account, string Key, string Request, bool IsSecret)
{
    public const string Item = "yard.repeat";
}

/// <summary>On endpoints whose answer holds a secret: for repeats it is kept encrypted with the service's own keys.</summary>
internal sealed class AnswersSecret
{
    public static readonly AnswersSecret Yes = new();
}

/// <summary>The same request was answered already.</summary>
internal sealed class RepeatedException(AnswerRow answer) : Exception("The request was answered already.")
{
    public AnswerRow Answer { get; } = answer;
}

/// <summary>How answers stand in the records.</summary>
internal sealed class KeptAnswers(IDataProtectionProvider protection)
{
    private readonly IDataProtector _protector = protection.CreateProtector("kept answer");

    public string Seal(string body, bool isSecret) => isSecret ? _protector.Protect(body) : body;

    /// <summary>The answer. One that an earlier version kept is as it was.</summary>
    public string Open(string kept, bool isSecret) => isSecret && !kept.StartsWith('{') ? _protector.Unprotect(kept) : kept;
}

/// <summary>
/// <c>Idempotency-Key</c> on all that creates: the first answer is kept 30 days and given again; another body under the same key is
/// refused.
/// </summary>
internal sealed class RepeatFilter(IDbContextFactory<YardDb> records, KeptAnswers answers, TimeProvider time) : IEndpointFilter
{
    private const int MostBytes = 32 << 20;

    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        var key = http.Request.Headers["Idempotency-Key"].ToString();
        if (key.Length == 0 || !HttpMethods.IsPost(http.Request.Method)) return await next(context);
        if (key.Length > 200) return new IdempotencyKeyProblem().ToHttp();
        http.Request.Body.Position = 0;
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(System.Text.Encoding.UTF8.GetBytes(http.Request.Method + " " + http.Request.Path + http.Request.QueryString
            + "\n"));
        var buffer = new byte[64 * 1024];
        for (long read = 0; await http.Request.Body.ReadAsync(buffer, http.RequestAborted) is > 0 and var got
            && read < MostBytes; read += got)
            hash.AppendData(buffer, 0, got);
        http.Request.Body.Position = 0;
        var repeat = new Repeat(
            http.User.NameOf(),
            key,
            Convert.ToHexStringLower(hash.GetHashAndReset()),
            http.GetEndpoint()?.Metadata.GetMetadata<AnswersSecret>() is not null);
        await using (var db = await records.CreateDbContextAsync(http.RequestAborted))
        {
            var oldest = time.GetUtcNow() - TimeSpan.FromDays(30);
            var kept = await db.Answers.AsNoTracking().FirstOrDefaultAsync(
                a => a.Account == repeat.Account && a.Key == key && a.At > oldest, http.RequestAborted);
            if (kept is not null) return Again(http, kept, repeat);
        }
        http.Items[Repeat.Item] = repeat;
        try
        {
            return await next(context);
        }
        catch (RepeatedException answered)
        {
            return Again(http, answered.Answer, repeat);
        }
    }

    private object Again(HttpContext http, AnswerRow kept, Repeat repeat)
    {
        if (kept.Request != repeat.Request)
            return new IdempotencyOtherBodyProblem().ToHttp();
        http.Response.Headers["Idempotency-Replayed"] = "true";
        return Results.Content(answers.Open(kept.Body, repeat.IsSecret), "application/json; charset=utf-8", statusCode: kept.Status);
    }
}
