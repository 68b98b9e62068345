/*M!999999\- enable the sandbox mode */ 
-- MariaDB dump 10.19  Distrib 10.11.19-MariaDB, for debian-linux-gnu (x86_64)
--
-- Host: localhost    Database: perch
-- ------------------------------------------------------
-- Server version	10.11.19-MariaDB-0+deb12u1

/*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
/*!40101 SET @OLD_CHARACTER_SET_RESULTS=@@CHARACTER_SET_RESULTS */;
/*!40101 SET @OLD_COLLATION_CONNECTION=@@COLLATION_CONNECTION */;
/*!40101 SET NAMES utf8mb4 */;
/*!40103 SET @OLD_TIME_ZONE=@@TIME_ZONE */;
/*!40103 SET TIME_ZONE='+00:00' */;
/*!40014 SET @OLD_UNIQUE_CHECKS=@@UNIQUE_CHECKS, UNIQUE_CHECKS=0 */;
/*!40014 SET @OLD_FOREIGN_KEY_CHECKS=@@FOREIGN_KEY_CHECKS, FOREIGN_KEY_CHECKS=0 */;
/*!40101 SET @OLD_SQL_MODE=@@SQL_MODE, SQL_MODE='NO_AUTO_VALUE_ON_ZERO' */;
/*!40111 SET @OLD_SQL_NOTES=@@SQL_NOTES, SQL_NOTES=0 */;

--
-- Table structure for table `dictionary`
--

DROP TABLE IF EXISTS `dictionary`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `dictionary` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `line` varchar(16) NOT NULL,
  `body` longtext NOT NULL,
  `version` bigint(20) NOT NULL,
  `changed_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `dictionary_line` (`pilot_id`,`line`),
  CONSTRAINT `dictionary_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `dictionary`
--

LOCK TABLES `dictionary` WRITE;
/*!40000 ALTER TABLE `dictionary` DISABLE KEYS */;
/*!40000 ALTER TABLE `dictionary` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `entry`
--

DROP TABLE IF EXISTS `entry`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `entry` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `quad_id` bigint(20) NOT NULL,
  `kind` varchar(20) NOT NULL,
  `name` varchar(190) NOT NULL,
  `body` longtext NOT NULL,
  `at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `entry_newest` (`quad_id`,`kind`,`name`,`id`),
  KEY `entry_pilot` (`pilot_id`),
  CONSTRAINT `entry_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`),
  CONSTRAINT `entry_quad` FOREIGN KEY (`quad_id`) REFERENCES `quad` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=5 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `entry`
--

LOCK TABLES `entry` WRITE;
/*!40000 ALTER TABLE `entry` DISABLE KEYS */;
INSERT INTO `entry` VALUES
(1,1,1,'event','crash','{\"event\":\"crash\",\"at\":\"2026-11-28T00:43:33.123682209Z\",\"note\":\"a tree\"}','2026-11-28 00:43:33.123'),
(2,1,1,'flight','flight','{\"at\":\"2026-11-28T00:43:33.177332171Z\",\"site\":\"the dunes\",\"pack\":\"grey\",\"minutes\":3,\"drawn\":0,\"lowest\":0,\"notes\":\"it flew\",\"scope\":\"none\"}','2026-11-28 00:43:33.178'),
(3,1,1,'event','crash','{\"event\":\"crash\",\"at\":\"2026-11-28T00:43:33.215557748Z\",\"note\":\"the same tree\"}','2026-11-28 00:43:33.215'),
(4,1,2,'reading','readings.airframe.weight','{\"at\":\"2026-11-28T00:43:33.279577911Z\",\"bench\":false,\"input\":\"\",\"origin\":\"typed\",\"revision\":1,\"value\":640}','2026-11-28 00:43:33.279');
/*!40000 ALTER TABLE `entry` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `goose_db_version`
--

DROP TABLE IF EXISTS `goose_db_version`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `goose_db_version` (
  `id` bigint(20) unsigned NOT NULL AUTO_INCREMENT,
  `version_id` bigint(20) NOT NULL,
  `is_applied` tinyint(1) NOT NULL,
  `tstamp` datetime DEFAULT current_timestamp(),
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=6 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `goose_db_version`
--

LOCK TABLES `goose_db_version` WRITE;
/*!40000 ALTER TABLE `goose_db_version` DISABLE KEYS */;
INSERT INTO `goose_db_version` VALUES
(1,0,1,'2026-11-28 00:43:28'),
(2,1,1,'2026-11-28 00:43:28'),
(3,2,1,'2026-11-28 00:43:28'),
(4,3,1,'2026-11-28 00:43:28'),
(5,4,1,'2026-11-28 00:43:28');
/*!40000 ALTER TABLE `goose_db_version` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `lease`
--

DROP TABLE IF EXISTS `lease`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `lease` (
  `device` varchar(120) NOT NULL,
  `pilot_id` bigint(20) NOT NULL,
  `owner` char(32) NOT NULL,
  `until` datetime(3) NOT NULL,
  PRIMARY KEY (`device`),
  KEY `lease_pilot` (`pilot_id`),
  CONSTRAINT `lease_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `lease`
--

LOCK TABLES `lease` WRITE;
/*!40000 ALTER TABLE `lease` DISABLE KEYS */;
/*!40000 ALTER TABLE `lease` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `pilot`
--

DROP TABLE IF EXISTS `pilot`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `pilot` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(80) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `wants` longtext NOT NULL DEFAULT '{}',
  `version` bigint(20) NOT NULL DEFAULT 1,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `pilot`
--

LOCK TABLES `pilot` WRITE;
/*!40000 ALTER TABLE `pilot` DISABLE KEYS */;
INSERT INTO `pilot` VALUES
(1,'the pilot','2026-11-28 00:43:28.461','{}',1);
/*!40000 ALTER TABLE `pilot` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `quad`
--

DROP TABLE IF EXISTS `quad`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `quad` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `name` varchar(80) NOT NULL,
  `words` varchar(200) NOT NULL,
  `head` int(11) NOT NULL,
  `edits` longtext NOT NULL,
  `undone` longtext NOT NULL,
  `version` bigint(20) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `quad_name` (`pilot_id`,`name`),
  CONSTRAINT `quad_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `quad`
--

LOCK TABLES `quad` WRITE;
/*!40000 ALTER TABLE `quad` DISABLE KEYS */;
INSERT INTO `quad` VALUES
(1,1,'Dunlin','a wader',2,'[{\"path\":\"sheet.loss.guard\",\"before\":0,\"after\":1.5}]','[]',4,'2026-11-28 00:43:32.680'),
(2,1,'Knot','a wader',1,'[]','[]',1,'2026-11-28 00:43:32.740');
/*!40000 ALTER TABLE `quad` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `revision`
--

DROP TABLE IF EXISTS `revision`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `revision` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `quad_id` bigint(20) NOT NULL,
  `number` int(11) NOT NULL,
  `body` longtext NOT NULL,
  `hash` char(64) NOT NULL,
  `why` varchar(200) NOT NULL,
  `who` varchar(80) NOT NULL DEFAULT '',
  `created_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `revision_number` (`quad_id`,`number`),
  KEY `revision_pilot` (`pilot_id`),
  CONSTRAINT `revision_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`),
  CONSTRAINT `revision_quad` FOREIGN KEY (`quad_id`) REFERENCES `quad` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=4 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `revision`
--

LOCK TABLES `revision` WRITE;
/*!40000 ALTER TABLE `revision` DISABLE KEYS */;
INSERT INTO `revision` VALUES
(1,1,1,1,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"Marram\",\"version\":\"7.0.2\",\"target\":\"HARRIER4\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":0},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":null,\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','16d9e00a5e2a6d516da4b26fcce99c3ab2eb9f402aa6d9ee7821f1ed50ba9ba1','made','the pilot','2026-11-28 00:43:32.680'),
(2,1,2,1,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"Marram\",\"version\":\"7.0.2\",\"target\":\"HARRIER4\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":0},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":null,\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','16d9e00a5e2a6d516da4b26fcce99c3ab2eb9f402aa6d9ee7821f1ed50ba9ba1','made','the pilot','2026-11-28 00:43:32.740'),
(3,1,1,2,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"Marram\",\"version\":\"7.0.2\",\"target\":\"HARRIER4\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":6.5},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":null,\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','c02b8c04c95bf138629a1e370d60c6a48ca7763dcaa472ab6e1f06de7577c81c','for the wind','the pilot','2026-11-28 00:43:32.955');
/*!40000 ALTER TABLE `revision` ENABLE KEYS */;
UNLOCK TABLES;
/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

-- Dump completed
