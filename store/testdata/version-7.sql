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
  KEY `entry_page` (`quad_id`,`kind`,`id`),
  CONSTRAINT `entry_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`),
  CONSTRAINT `entry_quad` FOREIGN KEY (`quad_id`) REFERENCES `quad` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=7 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `entry`
--

LOCK TABLES `entry` WRITE;
/*!40000 ALTER TABLE `entry` DISABLE KEYS */;
INSERT INTO `entry` VALUES
(1,1,1,'reading','readings.airframe.weight','{\"value\":715,\"origin\":\"typed\",\"at\":\"2026-05-04T10:00:00Z\"}','2026-05-04 10:00:00.000'),
(2,1,1,'flight','','{\"site\":\"the spit\",\"pack\":\"grey\",\"minutes\":4,\"notes\":\"it flew\"}','2026-05-04 10:00:00.000'),
(3,1,1,'event','crash','{\"note\":\"a tree\"}','2026-05-04 10:00:00.000'),
(4,1,2,'reading','readings.airframe.weight','{\"value\":715,\"origin\":\"typed\",\"at\":\"2026-05-04T10:00:00Z\"}','2026-05-04 10:00:00.000'),
(5,1,2,'flight','','{\"site\":\"the spit\",\"pack\":\"grey\",\"minutes\":4,\"notes\":\"it flew\"}','2026-05-04 10:00:00.000'),
(6,1,2,'event','crash','{\"note\":\"a tree\"}','2026-05-04 10:00:00.000');
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
) ENGINE=InnoDB AUTO_INCREMENT=9 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `goose_db_version`
--

LOCK TABLES `goose_db_version` WRITE;
/*!40000 ALTER TABLE `goose_db_version` DISABLE KEYS */;
INSERT INTO `goose_db_version` VALUES
(1,0,1,'2026-11-28 13:04:09'),
(2,1,1,'2026-11-28 13:04:09'),
(3,2,1,'2026-11-28 13:04:09'),
(4,3,1,'2026-11-28 13:04:09'),
(5,4,1,'2026-11-28 13:04:09'),
(6,5,1,'2026-11-28 13:04:09'),
(7,6,1,'2026-11-28 13:04:09'),
(8,7,1,'2026-11-28 13:04:09');
/*!40000 ALTER TABLE `goose_db_version` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `known_columns`
--

DROP TABLE IF EXISTS `known_columns`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `known_columns` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `purpose` varchar(40) NOT NULL,
  `heads` char(64) NOT NULL,
  `body` text NOT NULL,
  `changed_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `known_columns_heads` (`pilot_id`,`purpose`,`heads`),
  CONSTRAINT `known_columns_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `known_columns`
--

LOCK TABLES `known_columns` WRITE;
/*!40000 ALTER TABLE `known_columns` DISABLE KEYS */;
/*!40000 ALTER TABLE `known_columns` ENABLE KEYS */;
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
-- Table structure for table `own_part`
--

DROP TABLE IF EXISTS `own_part`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `own_part` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `pilot_id` bigint(20) NOT NULL,
  `kind` varchar(20) NOT NULL,
  `name` varchar(60) NOT NULL,
  `body` mediumtext NOT NULL,
  `changed_at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `own_part_name` (`pilot_id`,`kind`,`name`),
  CONSTRAINT `own_part_pilot` FOREIGN KEY (`pilot_id`) REFERENCES `pilot` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_bin;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `own_part`
--

LOCK TABLES `own_part` WRITE;
/*!40000 ALTER TABLE `own_part` DISABLE KEYS */;
INSERT INTO `own_part` VALUES
(1,1,'motor','ours','{\"kind\":\"motor\",\"name\":\"ours\",\"part\":{\"kv\":1700}}','2026-11-28 13:04:09.678');
/*!40000 ALTER TABLE `own_part` ENABLE KEYS */;
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
  `parts_version` bigint(20) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `pilot`
--

LOCK TABLES `pilot` WRITE;
/*!40000 ALTER TABLE `pilot` DISABLE KEYS */;
INSERT INTO `pilot` VALUES
(1,'the pilot','2026-11-28 13:04:09.670','{}',1,1);
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
  `last` bigint(20) NOT NULL DEFAULT 0,
  `flights` int(11) NOT NULL DEFAULT 0,
  `retired` tinyint(1) NOT NULL DEFAULT 0,
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
(1,1,'Dunlin','of version 7',2,'[{\"path\":\"sheet.motors.poles\",\"before\":0,\"after\":14}]','[]',2,'2026-05-04 10:00:00.000',3,1,0),
(2,1,'Knot','of version 7',2,'[]','[]',1,'2026-05-04 10:00:00.000',6,1,0);
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
) ENGINE=InnoDB AUTO_INCREMENT=5 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `revision`
--

LOCK TABLES `revision` WRITE;
/*!40000 ALTER TABLE `revision` DISABLE KEYS */;
INSERT INTO `revision` VALUES
(1,1,1,1,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"\",\"version\":\"\",\"target\":\"\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":5.5},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":{\"grey\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":18,\"mass\":215},\"it\'s \\\"odd\\\"\":{\"cells\":6,\"capacity\":1500,\"discharge\":0,\"resistance\":0,\"mass\":0}},\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','06fa09997ce8452c6c83b07bcc0bcde6d35457a54c382636a7d1b2986d5c12c3','made','the pilot','2026-05-04 10:00:00.000'),
(2,1,1,2,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"\",\"version\":\"\",\"target\":\"\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":6.5},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":{\"grey\":{\"cells\":6,\"capacity\":1300,\"discharge\":120,\"resistance\":18,\"mass\":215},\"it\'s \\\"odd\\\"\":{\"cells\":6,\"capacity\":1500,\"discharge\":0,\"resistance\":0,\"mass\":0}},\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','606ae09c42cb4039723170b4b8624381cf5263d437a73882602e217515aceaa5','more idle','the pilot','2026-05-04 10:00:00.000'),
(3,1,2,1,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"\",\"version\":\"\",\"target\":\"\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":5.5},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":{\"grey\":{\"cells\":4,\"capacity\":850,\"discharge\":0,\"resistance\":0,\"mass\":0},\"small\":{\"cells\":1,\"capacity\":450,\"discharge\":0,\"resistance\":0,\"mass\":0}},\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','625495a7f277745bea447610b801126bd420934abfa2934d00e7a9f23828b614','made','the pilot','2026-05-04 10:00:00.000'),
(4,1,2,2,'{\"format\":4,\"sheet\":{\"firmware\":{\"line\":\"\",\"version\":\"\",\"target\":\"\"},\"craft\":{\"layout\":\"\",\"rotation\":\"\"},\"wiring\":{\"ports\":null},\"link\":{\"inverted\":false,\"telemetry\":false,\"phrase\":\"\",\"strength\":\"\",\"strengthChannel\":0},\"sticks\":{\"order\":\"\",\"arm\":{\"channel\":0,\"from\":0,\"to\":0},\"armByStick\":false,\"selfLevel\":{\"channel\":0,\"from\":0,\"to\":0},\"beeper\":{\"channel\":0,\"from\":0,\"to\":0},\"blended\":{\"channel\":0,\"from\":0,\"to\":0},\"authority\":{\"channel\":0,\"from\":0,\"to\":0},\"authorityAlways\":false,\"ranges\":{\"roll\":{\"low\":0,\"centre\":0,\"high\":0},\"pitch\":{\"low\":0,\"centre\":0,\"high\":0},\"throttle\":{\"low\":0,\"centre\":0,\"high\":0},\"yaw\":{\"low\":0,\"centre\":0,\"high\":0}},\"deadband\":0,\"idleBelow\":0,\"armTilt\":0},\"motors\":{\"reversible\":false,\"outputs\":null,\"protocol\":\"\",\"bitRate\":0,\"twoWay\":false,\"loopRate\":0,\"poles\":0,\"idle\":6.5},\"senses\":{\"boardRoll\":0,\"boardPitch\":0,\"boardYaw\":0,\"barometer\":false,\"satellite\":false},\"feel\":{\"family\":\"\",\"roll\":{\"centre\":0,\"peak\":0,\"bend\":0},\"pitch\":{\"centre\":0,\"peak\":0,\"bend\":0},\"yaw\":{\"centre\":0,\"peak\":0,\"bend\":0},\"rollGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"pitchGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"yawGains\":{\"proportional\":0,\"integral\":0,\"derivative\":0},\"angleLimit\":0,\"levelStrength\":0,\"blend\":0,\"throttleLimit\":0},\"watch\":{\"cells\":0,\"warnPerCell\":0,\"landPerCell\":0},\"loss\":{\"guard\":0,\"policy\":\"\",\"landThrottle\":0},\"picture\":{\"frequency\":0,\"power\":0}},\"parts\":{\"frame\":{\"name\":\"Tern Five\",\"armFront\":0,\"armSide\":0,\"legHeight\":0,\"tipGap\":0,\"dragArea\":0,\"mass\":0},\"motor\":{\"name\":\"\",\"kv\":0,\"resistance\":0,\"idleCurrent\":0,\"poles\":0,\"peakCurrent\":0,\"timeConstant\":0},\"propeller\":{\"name\":\"\",\"diameter\":0,\"thrust\":0,\"power\":0,\"reversed\":0,\"nutTorque\":0},\"speedController\":{\"name\":\"\",\"continuous\":0,\"cellsMin\":0,\"cellsMax\":0,\"twoWay\":false,\"layout\":\"\",\"idleDraw\":0},\"board\":{\"name\":\"\",\"target\":\"\",\"cellsMax\":0,\"idleDraw\":0,\"outputs\":null,\"ports\":null},\"packs\":{\"grey\":{\"cells\":4,\"capacity\":850,\"discharge\":0,\"resistance\":0,\"mass\":0},\"small\":{\"cells\":1,\"capacity\":450,\"discharge\":0,\"resistance\":0,\"mass\":0}},\"receiver\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"inverted\":false,\"telemetry\":false,\"idleDraw\":0,\"region\":\"\",\"gain\":0,\"polarisation\":\"\",\"frame\":0,\"strength\":\"\",\"strengthChannel\":0},\"radioModule\":{\"name\":\"\",\"link\":\"\",\"version\":\"\",\"band\":\"\",\"power\":0,\"external\":false,\"region\":\"\",\"gain\":0,\"polarisation\":\"\"},\"video\":{\"name\":\"\",\"fitted\":false,\"cellsMax\":0,\"idleDraw\":0},\"capacitor\":{\"capacitance\":0,\"rating\":0,\"resistance\":0,\"leadLength\":0},\"wires\":null,\"batteryLead\":{\"spacing\":0,\"twisted\":false}},\"radio\":{\"model\":\"\",\"modules\":\"\",\"number\":0,\"channels\":0,\"telemetry\":false,\"rate\":0,\"phrase\":\"\",\"alarms\":{\"strength\":0,\"strengthLast\":0,\"quality\":0,\"qualityLast\":0},\"trims\":{\"roll\":0,\"pitch\":0,\"throttle\":0,\"yaw\":0},\"order\":\"\",\"travel\":0,\"switches\":null},\"limits\":{\"country\":\"\",\"videoPower\":0,\"videoLow\":0,\"videoHigh\":0,\"controlPower\":0,\"height\":0,\"field\":0,\"thresholds\":{\"currentSpare\":{\"value\":0,\"reason\":\"\"},\"tipSpeed\":{\"value\":0,\"reason\":\"\"},\"linkQuality\":{\"value\":0,\"reason\":\"\"},\"level\":{\"value\":0,\"reason\":\"\"},\"wind\":{\"value\":0,\"reason\":\"\"},\"drift\":{\"value\":0,\"reason\":\"\"}}}}','bda36dee0a685f89508b95293921759ba2a84a8da7830a484676956fe8b8275e','more idle','the pilot','2026-05-04 10:00:00.000');
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

-- Dump completed on 2026-11-28 13:04:09
