namespace YardRelay.Service.Accounts;

/// <summary>What groups of the organisation's identity provider open here.</summary>
internal static class StaffGroupEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/sessions/doors", StaffGroupHandlers.Doors).AllowAnonymous()
            .WithName("GetSignInDoors")
            .WithSummary("Ways to sign in beside a name and a password.");
        routes.MapGet("/staff-groups", StaffGroupHandlers.ListAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("ListStaffGroups")
            .WithSummary("What groups of the organisation open here, by name.");
        routes.MapPut("/staff-groups/{group}", StaffGroupHandlers.PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutStaffGroup")
            .WithSummary("Says what a group opens, for all who came in by it at once.");
        routes.MapDelete("/staff-groups/{group}", StaffGroupHandlers.RemoveAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("RemoveStaffGroup")
            .WithSummary("A group opens nothing any more; whoever came in by it alone is signed out.");
    }
}
