using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ids;
using YardRelay.Core.Photos;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The work behind <see cref="PhotoEndpoints"/>.</summary>
internal static class PhotoHandlers
{
    internal static async Task<Results<Ok<ChecklistSeen>, ProblemHttpResult>> TakeAsync(
        SwapId swap, StepKey step, HttpRequest request, HttpResponse response, Writer writer, CancellationToken cancel,
        int? ageSeconds = null)
    {
        // Whoever sends too much is told so in words, and not by a broken connection.
        if (request.HttpContext.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
            limit.MaxRequestBodySize = null;
        if (request.ContentLength > Photo.MostBytes) return Photo.TooLarge(request.ContentLength.Value).ToHttp();
        using var sent = new MemoryStream();
        var buffer = new byte[64 * 1024];
        for (int got; (got = await request.Body.ReadAsync(buffer, cancel)) > 0;)
        {
            sent.Write(buffer, 0, got);
            if (sent.Length > Photo.MostBytes) return Photo.TooLarge(sent.Length).ToHttp();
        }
        if (!Photo.Read(sent.GetBuffer().AsSpan(0, (int)sent.Length)).TryGet(out var photo, out var problem))
            return problem.ToHttp();
        var sha256 = Convert.ToHexStringLower(SHA256.HashData(photo.Content.Span));
        return await StepDesk.WorkAsync(swap, step, new StepClaim.Photographed(sha256), ageSeconds, request, response, writer,
            async (w, at) =>
        {
            await w.Db.Photos.Where(p => p.Swap == swap && p.Step == step).ExecuteDeleteAsync(cancel);
            w.Db.Photos.Add(new()
            {
                Sha256 = sha256,
                Swap = swap,
                Step = step,
                Kind = photo.Kind,
                Width = photo.Width,
                Height = photo.Height,
                Content = photo.Content.ToArray(),
                By = w.By,
                At = at
            });
        }, cancel);
    }

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> GetAsync(
        SwapId swap, string sha256, HttpResponse response, YardDb db, CancellationToken cancel)
    {
        if (await db.Photos.AsNoTracking().FirstOrDefaultAsync(p => p.Swap == swap && p.Sha256 == sha256, cancel) is not { } photo)
            return ServiceProblem.NotFound("photo", sha256).ToHttp();
        // Whatever a browser makes of it, it is a picture and nothing that runs.
        response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        return TypedResults.File(photo.Content, photo.Kind);
    }
}
