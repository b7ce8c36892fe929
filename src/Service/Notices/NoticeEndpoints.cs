using YardRelay.Service.Accounts;

namespace YardRelay.Service.Notices;

/// <summary>Who was told what and when, who has not looked, and the texts.</summary>
internal static class NoticeEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/told", NoticeHandlers.ToldAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListTold")
            .WithSummary("Of each person: what they were told last, whether they looked, whether they acted; wave=KEY.");
        routes.MapGet("/refreshes/{refresh}/notices", NoticeHandlers.ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListNotices")
            .WithSummary("Notices, the newest first; swap=ID.");
        routes.MapPut("/refreshes/{refresh}/notices", NoticeHandlers.SwitchAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SwitchNotices")
            .WithSummary("Switches telling people on or off.");
        routes.MapPost("/refreshes/{refresh}/notices/again", NoticeHandlers.AgainAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SendAgain")
            .WithSummary("Sends a notice once more to some.");
        routes.MapPost("/refreshes/{refresh}/mails", NoticeHandlers.MailAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("TakeMail")
            .WithSummary(
                "Takes a mail that came back for a notice: a delivery report (RFC 3464), or the person's answer, which becomes a question "
                    + "of theirs.");
        routes.MapGet("/refreshes/{refresh}/notice-texts", NoticeHandlers.TextsAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListNoticeTexts")
            .WithSummary("The texts of all moments, in all languages.");
        routes.MapPut("/refreshes/{refresh}/notice-texts/{moment}/{language}", NoticeHandlers.SetTextAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("SetNoticeText")
            .WithSummary("Sets the refresh's own text for a moment; checked as it is written.");
        routes.MapPost("/refreshes/{refresh}/notice-texts/preview", NoticeHandlers.PreviewAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("PreviewNotice")
            .WithSummary("How a notice would read for a person.");
    }
}
