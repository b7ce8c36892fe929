using YardRelay.Service.Accounts;

namespace YardRelay.Service.Swaps;

/// <summary>Signs parts of a swap off, with what the signer saw; shows the paper; opens a part again.</summary>
internal static class SignOffEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/sign-offs", SignOffHandlers.SignAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("SignOffSwap")
            .WithSummary("Signs a part off; refused with the list of what is missing, or where the facts are others than those seen.");
        routes.MapGet("/swaps/{swap}/sign-offs/{part}/paper", SignOffHandlers.PaperAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetSignOffPaper")
            .WithSummary("What was signed, as canonical JSON (RFC 8785); the ledger holds its SHA-256.");
        routes.MapGet("/swaps/{swap}/paper.pdf", SignOffHandlers.PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetSwapPdf")
            .WithSummary("The whole swap on paper, with who signed what and its digest, and a code that leads to its page.")
            .Produces(200, contentType: "application/pdf");
        routes.MapPost("/swaps/{swap}/sign-offs/{part}/reopening", SignOffHandlers.ReopenAsync)
            .RequireAuthorization(Roles.Works)
            .WithName("ReopenSwap")
            .WithSummary("Opens a signed part again, with a reason; signatures that rest on it are void, too. The ledger keeps both.");
    }
}
