using YardRelay.Service.Accounts;

namespace YardRelay.Service.Checklists;

/// <summary>Photos that steps are done with: kept with their digest and without place and camera.</summary>
internal static class PhotoEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPut("/swaps/{swap}/checklist/steps/{step}/photo", PhotoHandlers.TakeAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("TakePhoto")
            .WithSummary(
                "Does a step with a photo: a JPEG, PNG or WebP of at most 12 MB. If-Match: the checklist's version as the caller saw it.");
        routes.MapGet("/swaps/{swap}/photos/{sha256}", PhotoHandlers.GetAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetPhoto")
            .WithSummary("A photo of a swap, as it is kept.")
            .Produces(200, contentType: "image/jpeg");
    }
}
