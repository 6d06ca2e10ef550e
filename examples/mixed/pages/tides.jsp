<%@ page import="harbour.quayside.store.JdbcBookings" contentType="text/html" %>
<h1>Tides</h1>
<% JdbcBookings bookings = new JdbcBookings(); %>
<p><%= bookings.of(request.getParameter("vessel")).size() %> berths</p>
