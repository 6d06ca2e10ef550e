<?php

declare(strict_types=1);

namespace Quayside\Main;

use PDO;
use Quayside\Store\PdoBookings;

final class Registry
{
    public static function bookings(): PdoBookings
    {
        return new PdoBookings(new PDO('sqlite:quayside.db'));
    }
}
